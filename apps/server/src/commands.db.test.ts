import { newServer, newShop, type TestServer } from "../test/house";
import { runCommand } from "./commands";

let server: TestServer;
beforeAll(async () => {
  server = await newServer();
});
afterAll(() => server.close());

/** The code a printed line gives. */
const codeIn = (text: string): string => /\/(?:come|new-password)\/([A-Z0-9]+)/u.exec(text)?.[1] ?? "";

describe("commands beside the running product", () => {
  it("open a further shop once, with an invitation that holds", async () => {
    const [text, code] = await runCommand(server.people, ["shop", " Fen Lane ", "Ida Fell"]);
    expect([code, text]).toEqual([0, expect.stringMatching(/^Ida Fell comes in at \/come\/[A-Z0-9]+ \(until 2\d{3}-\d\d-\d\d\)\.$/u)]);
    expect(await server.people.invitation(codeIn(text))).toMatchObject({ invitation: { name: "Ida Fell", role: "foreman", shop: "Fen Lane" } });
    expect(await runCommand(server.people, ["shop", "fen lane", "Ida Fell"])).toEqual(['There is a shop called "fen lane" already; expected another name.', 1]);
  });

  it("give a code for a new password to whoever may enter, and to nobody else", async () => {
    const { technician, foreman } = await newShop(server, "Quay Street");
    const [text, code] = await runCommand(server.people, ["password", technician.id]);
    expect([code, text]).toEqual([0, expect.stringMatching(/^A new password is set at \/new-password\/[A-Z0-9]{10} \(until .+ UTC, once\)\.$/u)]);
    expect(await server.people.resetFor(codeIn(text))).toMatchObject({ name: technician.name });
    await server.people.change(foreman.shopId, technician.id, { active: false });
    for (const gone of [technician.id, "nobody"])
      expect(await runCommand(server.people, ["password", gone])).toEqual([`Nobody who may enter has the short name "${gone}".`, 1]);
  });

  it.each([[[]], [["shop"]], [["shop", "Fen Lane"]], [["shop", " ", "Ida"]], [["password"]], [["backup", "x"]]])("%j says how they are used", async (words) => {
    const [text, code] = await runCommand(server.people, words);
    expect([code, text]).toEqual([2, expect.stringContaining("npm run password -- SHORT-NAME")]);
  });
});
