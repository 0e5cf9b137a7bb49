import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { takeApart } from "@fox-lamp/core/job";
import { jobSchema, parseOrThrow, type Shop, shopSettingsSchema } from "@fox-lamp/language";
import { v7 as uuidv7 } from "uuid";
import type { Repository } from "./repository";

const FOLDER = new URL("../demo/", import.meta.url);

/** The made-up workshop and its people. */
function demoShop(): Shop {
  const person = (name: string, role: Shop["people"][number]["role"]) => ({ id: uuidv7(), name, role });
  return {
    id: uuidv7(),
    name: "Tallow Bay Community Transport",
    people: [person("Wren Halloran", "technician"), person("Odette Marsh", "foreman"), person("Perrin Vale", "trainee")],
    settings: shopSettingsSchema.parse({ moneyPerHour: 64 }),
  };
}

/** Loads the demo into an empty database, through the same code that reads job files. @returns jobs loaded; 0 when not empty */
export async function loadDemo(repository: Repository, now: Date): Promise<number> {
  if ((await repository.firstShopId()) !== null) return 0;
  const shop = demoShop();
  await repository.createShop(shop);
  const files = readdirSync(fileURLToPath(FOLDER))
    .filter((name) => name.endsWith(".json"))
    .sort();
  for (const [index, name] of files.entries()) {
    const file = parseOrThrow(jobSchema, JSON.parse(readFileSync(new URL(name, FOLDER), "utf8")), name);
    const start = now.getTime() - (files.length - index) * 3 * 3_600_000;
    const by = shop.people[0]?.name ?? "demo";
    const taken = takeApart(file, { id: uuidv7, at: (minutes) => new Date(start + minutes * 60_000).toISOString(), by });
    await repository.createJob(shop.id, taken, by);
  }
  return files.length;
}
