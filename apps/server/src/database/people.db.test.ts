import { randomUUID } from "node:crypto";
import { newJob, newServer, newShop, type TestServer } from "../../test/house";
import { GUESS_SECONDS, Guesses, passwordLimits } from "../accounts/guesses";

let server: TestServer;
beforeAll(async () => {
  server = await newServer();
});
afterAll(() => server.close());

describe("people", () => {
  it("leave a shop its last foreman, whoever asks at the same moment", async () => {
    const { foreman, technician } = await newShop(server, "One Foreman");
    const second = await server.people.change(foreman.shopId, technician.id, { role: "foreman" });
    expect(second).toMatchObject({ role: "foreman" });
    const answers = await Promise.all([foreman, technician].map(({ id }) => server.people.change(foreman.shopId, id, { active: false })));
    expect(answers.filter((answer) => answer === "last-foreman")).toHaveLength(1);
  });

  it("get one code for a new password at a time, and none once they may not enter", async () => {
    const { foreman, technician } = await newShop(server, "Forgetful");
    const first = await server.people.resetPassword(foreman.shopId, technician.id);
    const second = await server.people.resetPassword(foreman.shopId, technician.id);
    expect(first?.code).toMatch(/^[A-Z0-9]{10}$/u);
    expect(await server.people.resetFor(first?.code ?? "")).toBeNull();
    expect(await server.people.resetFor(second?.code ?? "")).toMatchObject({ name: technician.name });
    const elsewhere = await newShop(server, "Elsewhere");
    expect(await server.people.resetPassword(elsewhere.foreman.shopId, technician.id)).toBeNull();
    await server.people.change(foreman.shopId, technician.id, { active: false });
    expect(await server.people.resetFor(second?.code ?? "")).toBeNull();
    expect(await server.people.resetPassword(foreman.shopId, technician.id)).toBeNull();
  });

  it("come by an invitation that one of many takes", async () => {
    const { foreman } = await newShop(server, "Inviting");
    const made = await server.people.invite(foreman.shopId, "Ash", "trainee");
    expect(await server.people.invitations(foreman.shopId)).toMatchObject([{ name: "Ash", role: "trainee", shop: "Inviting" }]);
    const taken = await Promise.all([1, 2, 3, 4].map(() => server.people.takeInvitation(made?.code ?? "", foreman.shopId)));
    expect(taken.filter(Boolean)).toHaveLength(1);
  });
});

it("shops count their own jobs, however many are made at once", async () => {
  const [one, two] = [await newShop(server, "Counting"), await newShop(server, "Counting Too")];
  const ids = await Promise.all(Array.from({ length: 12 }, (_, index) => newJob(server, index % 3 ? one.technician : two.technician)));
  const numbers = async (who: typeof one.technician) =>
    (await Promise.all(ids.map((id) => server.jobs.header(who, id)))).flatMap((job) => (job === null ? [] : [job.number])).sort((a, b) => a - b);
  expect(await numbers(one.technician)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
  expect(await numbers(two.technician)).toEqual([1, 2, 3, 4]);
});

it("a further shop opens under a name of its own, with an invitation for its foreman", async () => {
  expect(await server.people.openShop("Fen Lane", "Ida Fell")).toMatchObject({ name: "Ida Fell", role: "foreman", shop: "Fen Lane" });
  expect(await server.people.openShop("fen lane", "Ida Fell")).toBeNull();
  expect((await server.people.shops()).find(({ name }) => name === "Fen Lane")).toMatchObject({ people: 0, jobs: 0 });
});

it("call-outs show their job to whoever has the code, and end", async () => {
  const [own, elsewhere] = [await newShop(server, "Calling"), await newShop(server, "Listening")];
  const job = await newJob(server, own.technician);
  const state = { job, vehicle: "v", title: "t", how: "h", low: 0, high: 1, unit: "V", word: null, value: 2, taken: false, fits: false };
  await server.callouts.open(own.technician.shopId, job, "ABCDEFGH23");
  expect(await server.callouts.find("ABCDEFGH23")).toBe("empty");
  expect(await server.callouts.put(elsewhere.technician.shopId, "ABCDEFGH23", state)).toBe(false);
  expect(await server.callouts.put(own.technician.shopId, "ABCDEFGH23", { ...state, job: randomUUID() })).toBe(false);
  expect(await server.callouts.put(own.technician.shopId, "ABCDEFGH23", state)).toBe(true);
  expect(await server.callouts.find("ABCDEFGH23")).toEqual(state);
  expect(server.told).toContainEqual({ callout: "ABCDEFGH23" });
  await server.pool.query("update callouts set expires_at = now() - interval '1 minute'");
  expect(await server.callouts.find("ABCDEFGH23")).toBeNull();
  expect(await server.callouts.put(own.technician.shopId, "ABCDEFGH23", state)).toBe(false);
  await server.callouts.open(own.technician.shopId, job, "JKLMNPQR45");
  await server.callouts.end(elsewhere.technician.shopId, "JKLMNPQR45");
  expect(await server.callouts.find("JKLMNPQR45")).toBe("empty");
  await server.callouts.end(own.technician.shopId, "JKLMNPQR45");
  expect(await server.callouts.find("JKLMNPQR45")).toBeNull();
  // Those that ran out are swept when the next one opens.
  const { rows } = await server.pool.query("select count(*)::int as count from callouts");
  expect(rows).toEqual([{ count: 0 }]);
});

it("wrong passwords keep out whoever guesses, not the person elsewhere, and not for ever", async () => {
  const guesses = new Guesses(server.database);
  const here = passwordLimits("wren", "10.0.0.1");
  const there = passwordLimits("wren", "10.0.0.2");
  for (let wrong = 0; wrong < 10; wrong += 1) {
    expect(await guesses.tooMany(here)).toBe(false);
    await guesses.count(here);
  }
  expect(await guesses.tooMany(here)).toBe(true);
  expect(await guesses.tooMany(there)).toBe(false);
  await server.pool.query("update rate_limits set last_request = last_request - $1", [GUESS_SECONDS * 1000 + 1]);
  expect(await guesses.tooMany(here)).toBe(false);
  await guesses.count(here);
  expect(await guesses.tooMany(here)).toBe(false);
});
