import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { takeApart } from "@fox-lamp/core/job";
import { type Front, jobSchema, parseOrThrow, shopSettingsSchema } from "@fox-lamp/language";
import { v7 as uuidv7 } from "uuid";
import type { House } from "./routes/common";

const FOLDER = new URL("../demo/", import.meta.url);
const SHOP = "Tallow Bay Community Transport";

/** The demo's people; how they enter is told at the front door. */
export const DEMO_PEOPLE: Front["demo"] = [
  { name: "Wren Halloran", role: "technician", username: "wren", password: "lamp-on-the-bench" },
  { name: "Odette Marsh", role: "foreman", username: "odette", password: "keys-to-the-yard" },
  { name: "Perrin Vale", role: "trainee", username: "perrin", password: "first-things-first" },
];

/** Loads the demo into an empty database, through the same code that reads job files. @returns jobs loaded; 0 when not empty */
export async function loadDemo({ auth, people, vehicles, jobs }: Pick<House, "auth" | "people" | "vehicles" | "jobs">, now: Date): Promise<number> {
  const known = await people.firstShopId();
  // A demo from before people signed in: its jobs stay, its people get their keys.
  if (known !== null && !((await people.empty()) && (await people.shop(known))?.name === SHOP)) return 0;
  const shopId = known ?? (await people.createShop(SHOP, shopSettingsSchema.parse({ moneyPerHour: 64 })));
  const ids = new Map<string, string>();
  for (const person of DEMO_PEOPLE) ids.set(person.name, await auth.createPerson({ shopId, ...person }));
  if (known !== null) return 0;
  const files = readdirSync(fileURLToPath(FOLDER))
    .filter((name) => name.endsWith(".json"))
    .sort();
  for (const [index, name] of files.entries()) {
    const file = parseOrThrow(jobSchema, JSON.parse(readFileSync(new URL(name, FOLDER), "utf8")), name);
    const start = now.getTime() - (files.length - index) * 3 * 3_600_000;
    const by = DEMO_PEOPLE.find((person) => person.name === file["assigned"])?.name ?? "Wren Halloran";
    const taken = takeApart(file, { id: uuidv7, at: (minutes) => new Date(start + minutes * 60_000).toISOString(), by });
    const vehicleId = await vehicles.create(shopId, taken.vehicle, file.circuits);
    await jobs.create(shopId, vehicleId, taken, { id: ids.get(by) ?? "", name: by });
  }
  return files.length;
}
