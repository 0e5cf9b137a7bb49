import { randomUUID } from "node:crypto";
import type { ShelfQuery, ShelfRecord, SpecLimit, Vehicle } from "@fox-lamp/language";
import { newServer, newShop, type TestServer } from "../../test/house";

let server: TestServer;
beforeAll(async () => {
  server = await newServer();
});
afterAll(() => server.close());

const LIMIT: SpecLimit = {
  vehicle: { make: "Veldane", model: "Brisk 4", years: [2011, 2016] },
  family: "potentiometer-3w",
  meter: "volts-dc",
  red: "ref@sensor",
  low: 4.8,
  high: 5.2,
  unit: "V",
  source: { kind: "document", title: "Workshop book", edition: "3" },
};
const limit = (over: Partial<SpecLimit> = {}): ShelfRecord => ({ kind: "limit", record: { ...LIMIT, ...over } });
const curve: ShelfRecord = {
  kind: "curve",
  record: {
    vehicle: {},
    family: "thermistor-2w",
    kind: "temperature-ohms",
    points: [
      [0, 5900],
      [20, 2500],
    ],
    source: LIMIT.source,
  },
};
const sound = (item: ShelfRecord) => ({ item, problems: [], passes: [] });
const ALL: Omit<ShelfQuery, "q" | "vehicle"> = { bad: false };
const freshShop = async (): Promise<string> => (await newShop(server, `Shop ${randomUUID()}`)).technician.shopId;

it("a record is put, found by any of its words, changed and taken off; another shop sees none of it", async () => {
  const [shop, other] = [await freshShop(), await freshShop()];
  const id = await server.shelf.put(shop, sound(limit()), "Wren");
  await server.shelf.put(shop, { item: curve, problems: [{ code: "unit-slip", reason: "no sensor's" }], passes: [] }, "Wren");
  const found = async (...words: string[]) => (await server.shelf.search(shop, ALL, words)).items.map(({ item }) => item.kind);
  expect(await found("veldane", "book")).toEqual(["limit"]);
  expect(await found("workshop")).toEqual(["curve", "limit"]);
  expect(await found("50%")).toEqual([]);
  expect((await server.shelf.search(shop, { ...ALL, kind: "curve" }, [])).count).toBe(1);
  expect((await server.shelf.search(shop, { bad: true }, [])).items.map(({ problems }) => problems[0]?.code)).toEqual(["unit-slip"]);
  expect((await server.shelf.search(other, ALL, [])).count).toBe(0);
  expect(await server.shelf.change(other, id, sound(limit({ high: 5.1 })), "x")).toBe(false);
  expect(await server.shelf.change(shop, id, sound(limit({ high: 5.1, vehicle: { make: "Orrin" } })), "Odette")).toBe(true);
  expect(await found("veldane")).toEqual([]);
  expect((await server.shelf.search(shop, ALL, ["orrin"])).items[0]).toMatchObject({ by: "Odette", item: { record: { high: 5.1 } } });
  expect(await server.shelf.remove(other, id)).toBe(false);
  expect(await server.shelf.remove(shop, id)).toBe(true);
  expect(await server.shelf.remove(shop, id)).toBe(false);
});

it("what holds for a vehicle is what does not exclude it", async () => {
  const shop = await freshShop();
  await server.shelf.bringIn(
    shop,
    "book.csv",
    [limit(), limit({ vehicle: {} }), limit({ vehicle: { make: "Orrin" } }), limit({ vehicle: { make: "VELDANE", engine: "1.4" } })].map(sound),
    "Wren",
    true,
  );
  const of = async (vehicle: Vehicle) => (await server.shelf.search(shop, ALL, [], vehicle)).items.map(({ item }) => item.record.vehicle.make ?? "any").sort();
  expect(await of({ make: "Veldane", model: "brisk 4", year: 2014, engine: "1.4" })).toEqual(["VELDANE", "Veldane", "any"]);
  expect(await of({ make: "Veldane", model: "Brisk 4", year: 2020 })).toEqual(["any"]);
  expect(await of({ make: "Veldane", model: "Brisk 4" })).toEqual(["any"]);
  expect(await of({})).toEqual(["any"]);
});

it("an import comes once, and goes at once; what was written before it stays", async () => {
  const shop = await freshShop();
  const before = await server.shelf.put(shop, sound(limit()), "Wren");
  const many = [limit({ by: "somebody else" }), limit({ red: "gnd@sensor" }), limit({ red: "gnd@sensor" }), curve].map(sound);
  expect(await server.shelf.twins(shop, [limit({ date: "2026-01-01" }), curve])).toEqual([before, null]);
  const brought = await server.shelf.bringIn(shop, "book.csv", many, "Wren", true);
  expect(brought).toMatchObject({ stored: 2, skipped: 2 });
  expect((await server.shelf.search(shop, ALL, [])).count).toBe(3);
  expect(await server.shelf.imports(shop)).toMatchObject([{ id: brought.id, name: "book.csv", count: 2, left: 2, undone: false }]);
  expect(await server.shelf.undo(await freshShop(), brought.id)).toBeNull();
  expect(await server.shelf.undo(shop, brought.id)).toBe(2);
  expect(await server.shelf.undo(shop, brought.id)).toBeNull();
  expect((await server.shelf.search(shop, ALL, [])).items.map(({ id }) => id)).toEqual([before]);
  expect(await server.shelf.imports(shop)).toMatchObject([{ left: 0, undone: true }]);
});

it("a record that was changed by hand stays when its import is taken back", async () => {
  const shop = await freshShop();
  const { id } = await server.shelf.bringIn(shop, "book.csv", [sound(limit()), sound(curve)], "Wren", true);
  const { items } = await server.shelf.search(shop, { ...ALL, kind: "limit" }, []);
  await server.shelf.change(shop, items[0]?.id ?? "", sound(limit({ high: 5.1 })), "Odette");
  expect(await server.shelf.undo(shop, id)).toBe(1);
  expect((await server.shelf.search(shop, ALL, [])).items.map(({ item }) => item.kind)).toEqual(["limit"]);
});

it("what stands twice is merged on request: the oldest stays", async () => {
  const shop = await freshShop();
  const first = await server.shelf.put(shop, sound(curve), "Wren");
  await server.shelf.bringIn(shop, "again.csv", [sound(curve), sound(curve), sound(limit())], "Wren", false);
  expect((await server.shelf.search(shop, ALL, [])).count).toBe(4);
  expect(await server.shelf.merge(shop)).toBe(2);
  expect(await server.shelf.merge(shop)).toBe(0);
  const { items } = await server.shelf.search(shop, { ...ALL, kind: "curve" }, []);
  expect(items.map(({ id }) => id)).toEqual([first]);
  const file = await server.shelf.file(shop);
  expect([file.limits.length, file.curves.length, file.variants.length]).toEqual([1, 1, 0]);
  expect((await server.shelf.file(shop, { make: "Orrin" })).limits).toEqual([]);
});
