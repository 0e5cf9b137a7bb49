import { recordingIn } from "./log-csv";

const ok = (text: string) => {
  const answer = recordingIn(text, "log.csv");
  if ("problem" in answer) throw new Error(answer.problem);
  return answer.recording;
};

describe("a CSV log of live values", () => {
  it("reads comma, semicolon and tab, decimal commas, comments and units", () => {
    for (const text of ["# made up\ntime_s,coolant [degC]\n10,88\n10.5,\n11,90", "time_s;coolant (degC)\n10;88\n10,5;\n11;90"]) {
      const { seconds, channels } = ok(text);
      expect(seconds).toEqual([0, 0.5, 1]);
      expect(channels).toEqual([{ name: "coolant", unit: "degC", circuit: null, values: [88, null, 90] }]);
    }
  });
  it("keeps a dropout of one sample in a long log", () => {
    const rows = Array.from({ length: 20_000 }, (_, index) => `${index / 10},${index === 12_345 ? 0 : 45}`);
    const { channels, seconds } = ok(`time,egr [%]\n${rows.join("\n")}`);
    expect(seconds.length).toBeLessThanOrEqual(4000);
    expect(channels[0]?.values).toContain(0);
  });
  it("says what cannot be read and where", () => {
    const problem = (text: string) => {
      const answer = recordingIn(text, "log.csv");
      return "problem" in answer ? answer.problem : "";
    };
    expect(problem("time|coolant\n1|2")).toContain("one column only");
    expect(problem("date,coolant\n1,2")).toContain('"date"');
    expect(problem("time,coolant\n1,2\nnoon,3")).toContain("line 3");
    expect(problem("")).toContain("no rows");
  });
});
