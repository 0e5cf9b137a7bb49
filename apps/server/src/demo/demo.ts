import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { judgeRecords, recordsOfFile, type TakenApart, takeApart } from "@fox-lamp/core";
import { circuitSchema, type Front, jobSchema, parseOrThrow, shopSettingsSchema, simulatedSchema, specFileSchema, vehicleSchema } from "@fox-lamp/language";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { House } from "../http/common";
import { loadTraceJobs } from "./trace-jobs";

const FOLDER = new URL("../demo/", import.meta.url);
const SHOP = "Tallow Bay Community Transport";

/** The demo's people; how they enter is told at the front door. */
export const DEMO_PEOPLE: Front["demo"] = [
  { name: "Wren Halloran", role: "technician", username: "wren", password: "lamp-on-the-bench" },
  { name: "Odette Marsh", role: "foreman", username: "odette", password: "keys-to-the-yard" },
  { name: "Perrin Vale", role: "trainee", username: "perrin", password: "first-things-first" },
];

/** Loads the demo into an empty database, through the same code that reads job files. @returns jobs loaded; 0 when not empty */
export async function loadDemo(
  { auth, people, vehicles, jobs, captures, shelf }: Pick<House, "auth" | "people" | "vehicles" | "jobs" | "captures" | "shelf">,
  now: Date,
): Promise<number> {
  const known = await people.firstShopId();
  // A demo from before people signed in: its jobs stay, its people get their keys.
  if (known !== null && !((await people.empty()) && (await people.shop(known))?.name === SHOP)) return 0;
  const shopId = known ?? (await people.createShop(SHOP, shopSettingsSchema.parse({ moneyPerHour: 64, currency: "EUR" })));
  const ids = new Map<string, string>();
  for (const person of DEMO_PEOPLE) ids.set(person.name, await auth.createPerson({ shopId, ...person, owner: person.role === "foreman" }));
  if (known !== null) return 0;
  const files = readdirSync(fileURLToPath(FOLDER))
    .filter((name) => name.endsWith(".json"))
    .sort();
  for (const [index, name] of files.entries()) {
    const file = parseOrThrow(jobSchema, JSON.parse(readFileSync(new URL(name, FOLDER), "utf8")), name);
    const start = now.getTime() - (files.length - index) * 3 * 3_600_000;
    const by = DEMO_PEOPLE.find((person) => person.name === file["assigned"])?.name ?? "Wren Halloran";
    const taken = shifted(takeApart(file, { id: uuidv7, at: (minutes) => new Date(start + minutes * 60_000).toISOString(), by }), start);
    const vehicleId = await vehicles.create(shopId, taken.vehicle, file.circuits);
    const person = { id: ids.get(by) ?? "", name: by };
    await jobs.create(shopId, vehicleId, taken, { assigned: person, author: person.id });
  }
  const traced = await loadTraceJobs(
    FOLDER,
    { jobs, vehicles, captures },
    { shopId, person: { id: ids.get("Wren Halloran") ?? "", name: "Wren Halloran" } },
    now.getTime() - files.length * 3 * 3_600_000,
  );
  for (const { vehicle, circuits, simulated } of registerSchema.parse(JSON.parse(readFileSync(new URL("register/vehicles.json", FOLDER), "utf8"))).vehicles)
    await vehicles.create(shopId, vehicle, circuits, simulated);
  await loadShelf(shelf, shopId);
  return files.length + traced;
}

/** The shop's books: some of what stands in them cannot be, and some contradicts the rest, as in any shop. */
async function loadShelf(shelf: House["shelf"], shopId: string): Promise<void> {
  const items = recordsOfFile(parseOrThrow(specFileSchema, JSON.parse(readFileSync(new URL("shelf/shelf.json", FOLDER), "utf8")), "shelf.json"));
  const judged = judgeRecords(items);
  const all = items.map((item, index) => ({ item, problems: judged[index]?.problems ?? [], passes: judged[index]?.passes ?? [] }));
  await shelf.bringIn(shopId, "Books of the shop", all, "Odette Marsh", true);
}

/** Vehicles of the register on which no job stands yet; some have a virtual car for the jobs to come. */
const registerSchema = z.object({
  vehicles: z.array(z.object({ vehicle: vehicleSchema, circuits: z.array(circuitSchema), simulated: simulatedSchema.nullable() })),
});

/** A job whose entries happened lately: the first one at `start`, the others as long after it as they were. */
function shifted(taken: TakenApart, start: number): TakenApart {
  const first = Date.parse(taken.entries[0]?.at ?? new Date(start).toISOString());
  return { ...taken, entries: taken.entries.map((entry) => ({ ...entry, at: new Date(Date.parse(entry.at) - first + start).toISOString() })) };
}
