import { newJob, newServer, newShop, type TestServer } from "../../test/house";

const PAGE = {
  shop: "Quay Street",
  letterhead: "",
  logo: null,
  page: "Job 1",
  vehicle: "Unit 1",
  vehicleDetails: "",
  sections: [{ title: "You told us", lines: ["Runs cold"] }],
};
let server: TestServer;
beforeAll(async () => {
  server = await newServer();
});
afterAll(() => server.close());

describe("a shared page", () => {
  const CODE = "ABCDEFGHJKLMNPQRSTUV";
  it("is seen by its code until it expires, and listed for its job alone", async () => {
    const { technician } = await newShop(server);
    const job = await newJob(server, technician);
    const share = await server.shares.share(technician.shopId, job, { code: CODE, page: PAGE, by: "Wren", days: 2 });
    expect(share).toMatchObject({ code: CODE, by: "Wren" });
    expect(Date.parse(share.expiresAt) - Date.parse(share.createdAt)).toBeCloseTo(2 * 86_400_000, -4);
    expect(await server.shares.find(CODE)).toEqual(PAGE);
    expect((await server.shares.ofJob(technician.shopId, job)).map(({ code }) => code)).toEqual([CODE]);
    await server.pool.query("update shares set expires_at = now() - interval '1 minute' where code = $1", [CODE]);
    expect(await server.shares.find(CODE)).toBeNull();
    expect(await server.shares.ofJob(technician.shopId, job)).toEqual([]);
  });
  it("is ended by its own job and shop alone, and goes with its job", async () => {
    const [own, other] = [await newShop(server, "Quay"), await newShop(server, "Other")];
    const job = await newJob(server, own.technician);
    const code = "ZBCDEFGHJKLMNPQRSTUV";
    await server.shares.share(own.technician.shopId, job, { code, page: PAGE, by: "Wren", days: 2 });
    expect(await server.shares.end(other.technician.shopId, job, code)).toBe(false);
    expect(await server.shares.find(code)).toEqual(PAGE);
    expect(await server.shares.end(own.technician.shopId, job, code)).toBe(true);
    expect(await server.shares.find(code)).toBeNull();
    await server.shares.share(own.technician.shopId, job, { code, page: PAGE, by: "Wren", days: 2 });
    await server.pool.query("delete from jobs where id = $1", [job]);
    expect(await server.shares.find(code)).toBeNull();
  });
});
