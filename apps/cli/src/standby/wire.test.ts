import { answerBytes, answerIn, requestLine, requestOn } from "./wire";

describe("what a command and the standby say to each other", () => {
  it("is the same on the other side, whatever is in it", () => {
    const request = { words: ["diagnose", "Kühler 2 \n.json"], given: Uint8Array.of(0, 10, 32, 255) };
    const line = requestLine(request);
    expect(line.indexOf("\n")).toBe(line.length - 1);
    const { words, given } = requestOn(line);
    expect(words).toEqual(request.words);
    expect([...given]).toEqual([0, 10, 32, 255]);
    const nothing = requestOn(requestLine({ words: ["diagnose", "-"], given: Uint8Array.of() }));
    expect([nothing.words, nothing.given.length]).toEqual([["diagnose", "-"], 0]);
    for (const answer of [
      { code: 0, stdout: '{ "ohms": "2,4 kΩ" }\n', stderr: "" },
      { code: 2, stdout: "", stderr: "standard input: is not JSON\n" },
    ] as const)
      expect(answerIn(answerBytes(answer))).toEqual(answer);
  });
  it("is no answer where it breaks off", () => {
    const whole = answerBytes({ code: 0, stdout: "{}\n", stderr: "a" });
    for (let length = 0; length < whole.length; length += 1) expect(answerIn(whole.subarray(0, length))).toBeNull();
  });
});
