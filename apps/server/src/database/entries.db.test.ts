import { randomUUID } from "node:crypto";
import { ECT, entry, newJob, newServer, newShop, reading, rules, rulesFor, serverOn, type TestServer } from "../../test/house";

let server: TestServer;
let shop: Awaited<ReturnType<typeof newShop>>;
beforeAll(async () => {
  server = await newServer();
  shop = await newShop(server);
});
afterAll(() => server.close());

const problemIn = async (task: Promise<unknown>): Promise<unknown> =>
  task.then(
    () => null,
    (error: { problem?: unknown }) => error.problem ?? error,
  );

describe("entries", () => {
  it("are stored once however often they are sent, under numbers without a gap, signed by who was signed in", async () => {
    const id = await newJob(server, shop.technician);
    const [first, second] = [entry("note", { text: "one" }), reading(4.9)];
    const once = await server.entries.append(shop.technician, id, [first], rules);
    const again = await server.entries.append(shop.foreman, id, [first, second, second], rules);
    expect(again?.[0]).toEqual(once?.[0]);
    expect(again?.map(({ seq }) => seq)).toEqual([2, 3, 3]);
    const stored = await server.entries.after(shop.technician, id, 1);
    expect(stored).toEqual([once?.[0], again?.[1]]);
    expect(stored?.map(({ person }) => person)).toEqual([shop.technician.id, shop.foreman.id]);
  });

  it("of many devices and two servers at once are all there", async () => {
    const id = await newJob(server, shop.technician);
    const other = serverOn(server.url);
    const sent = Array.from({ length: 60 }, (_, index) => [reading(index / 20), entry("note", { text: `${index}` })]);
    const answers = await Promise.all(sent.map((entries, index) => (index % 2 ? server : other).entries.append(shop.technician, id, entries, rules)));
    await other.close();
    const stored = (await server.entries.after(shop.technician, id, 0)) ?? [];
    expect(stored.map(({ seq }) => seq)).toEqual(Array.from({ length: 121 }, (_, index) => index + 1));
    expect(answers.flatMap((answer) => answer?.map(({ id: own, seq }) => `${own} ${seq}`)).sort()).toEqual(
      stored
        .slice(1)
        .map(({ id: own, seq }) => `${own} ${seq}`)
        .sort(),
    );
    // What was sent together stands together.
    for (const answer of answers) expect((answer?.[1]?.seq ?? 0) - (answer?.[0]?.seq ?? 0)).toBe(1);
  });

  it("under an id another job has are refused by name, one after the other or at the same moment", async () => {
    const [one, two] = [await newJob(server, shop.technician), await newJob(server, shop.technician)];
    const taken = entry("note", { text: "x" });
    await server.entries.append(shop.technician, one, [taken], rules);
    const fresh = entry("note", { text: "y" });
    expect(await problemIn(server.entries.append(shop.technician, two, [fresh, taken], rules))).toMatchObject({
      code: "entry:foreign-id",
      where: "entries[1].id",
    });
    expect(await server.entries.after(shop.technician, two, 1)).toEqual([]);
    for (let round = 0; round < 20; round += 1) {
      const both = entry("note", { text: "both" });
      const answers = await Promise.all([one, two].map((id) => problemIn(server.entries.append(shop.technician, id, [both], rules))));
      expect(answers.filter((answer) => answer === null)).toHaveLength(1);
      expect(answers.find((answer) => answer !== null)).toMatchObject({ code: "entry:foreign-id" });
    }
    // Another shop may have the same id: ids are a shop's own.
    const elsewhere = await newShop(server, "Other Quay");
    const theirs = await newJob(server, elsewhere.technician);
    expect(await server.entries.append(elsewhere.technician, theirs, [taken], rules)).toHaveLength(1);
  });

  it("are nobody's business in another shop, and a trainee's in the own jobs only", async () => {
    const id = await newJob(server, shop.technician);
    const elsewhere = await newShop(server, "Far Quay");
    expect(await server.entries.append(elsewhere.foreman, id, [reading(1)], rules)).toBeNull();
    expect(await server.entries.append(shop.trainee, id, [reading(1)], rules)).toBeNull();
    expect(await server.entries.append(shop.trainee, id, [entry("stage", { stage: "bench" })], rules)).toBeNull();
    expect(await server.entries.append(shop.trainee, randomUUID(), [entry("note", { text: "x" })], rules)).toBeNull();
    // Nor is he told which circuits it has.
    const stray = reading(1);
    (stray.body as { reading: { circuit: string } }).reading.circuit = "nowhere";
    expect(await server.entries.append(shop.trainee, id, [stray], rules)).toBeNull();
    await server.entries.append(shop.foreman, id, [entry("assigned", { person: shop.trainee.id, name: "T" })], rules);
    expect(await server.entries.append(shop.trainee, id, [reading(1)], rules)).toHaveLength(1);
    await server.entries.append(shop.foreman, id, [entry("assigned", { person: null, name: "" })], rules);
    expect(await server.entries.after(shop.trainee, id, 0)).toBeNull();
    expect(await problemIn(server.entries.append(shop.foreman, id, [entry("assigned", { person: elsewhere.foreman.id, name: "F" })], rules))).toMatchObject({
      code: "person:unknown",
    });
  });

  it("that are readings belong to the circuits as they stand now, also when another server edited them", async () => {
    const id = await newJob(server, shop.technician);
    const other = serverOn(server.url);
    const iat = { id: "iat", family: "thermistor-2w", title: "Intake air" };
    const onIat = () => entry("reading", { reading: { circuit: "iat", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 3 } } as never);
    // Both servers have seen the sheet without it.
    for (const each of [server, other])
      expect(await problemIn(each.entries.append(shop.technician, id, [onIat()], rules))).toMatchObject({
        code: "reading:misplaced",
        where: "entries[0].body.reading.circuit",
      });
    await server.entries.append(shop.technician, id, [entry("circuit", { circuit: iat } as never)], rules);
    expect(await other.entries.append(shop.technician, id, [onIat()], rules)).toHaveLength(1);
    // The first server takes it off: a reading on it is refused, and so is taking off what has readings.
    const withReading = await problemIn(server.entries.append(shop.technician, id, [entry("circuit", { remove: "iat" })], rules));
    expect(withReading).toMatchObject({ code: "circuit:read" });
    const third = await newJob(server, shop.technician, [ECT, iat]);
    expect(await other.entries.append(shop.technician, third, [reading(2)], rules)).toHaveLength(1);
    await server.entries.append(shop.technician, third, [entry("circuit", { remove: "iat" })], rules);
    expect(await problemIn(other.entries.append(shop.technician, third, [onIat()], rules))).toMatchObject({ code: "reading:misplaced" });
    await other.close();
  });

  it("take back what is one's own: of two people with one name each has the own entries", async () => {
    const id = await newJob(server, shop.trainee);
    const theirs = entry("note", { text: "theirs" }, "Same Name");
    const own = entry("note", { text: "own" }, "Same Name");
    await server.entries.append(shop.technician, id, [theirs], rules);
    await server.entries.append(shop.trainee, id, [own], rules);
    const trainee = { ...shop.trainee, name: "Same Name" };
    const back = (of: string) => server.entries.append(trainee, id, [entry("retraction", { entry: of })], () => rulesFor(trainee));
    expect(await problemIn(back(theirs.id))).toMatchObject({ code: "entry:others" });
    expect(await back(own.id)).toHaveLength(1);
    expect(
      await problemIn(server.entries.append(trainee, id, [entry("decision", { decision: "override", unit: "ect/sensor" })], () => rulesFor(trainee))),
    ).toMatchObject({
      code: "role:trainee",
    });
  });

  it("wait their turn at one job up to a number, and are told to come again beyond it", async () => {
    const id = await newJob(server, shop.technician);
    const answers = await Promise.all(
      Array.from({ length: 260 }, () => problemIn(server.entries.append(shop.technician, id, [entry("note", { text: "hot" })], rules))),
    );
    const refused = answers.filter((answer) => answer !== null);
    expect(refused.length).toBe(260 - 202);
    for (const problem of refused) expect(problem).toMatchObject({ code: "job:busy" });
    expect(await server.entries.after(shop.technician, id, 1)).toHaveLength(202);
  });
});
