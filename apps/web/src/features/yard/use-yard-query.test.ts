import { addressOf, askedOf, filtersOf, viewIn } from "./use-yard-query";

const view = (address: string) => viewIn(new URLSearchParams(address));

describe("the yard in its address", () => {
  it("is as usual where the address says nothing, and says nothing where it is as usual", () => {
    expect(view("")).toEqual({ q: "", mine: false, stage: "", person: "", waiting: "", code: "", idleDays: "", sort: "touched", view: "stages" });
    expect(addressOf(view("")).toString()).toBe("");
  });
  it("comes back as it was sent", () => {
    const address = "q=unit+7&stage=bench&person=nobody&waiting=part&code=P0118&idle=7&mine=yes&sort=promised&view=days";
    expect(addressOf(view(address)).toString()).toBe(address);
    expect(filtersOf(view(address))).toBe(6);
  });
  it("leaves out what cannot be", () => {
    expect(view("stage=garage&waiting=rain&idle=2&sort=colour&view=moon")).toEqual(view(""));
  });
  it("asks the server for what is set and for the words that have settled", () => {
    expect(askedOf(view("q=un&waiting=any&idle=3"), "unit")).toEqual({ q: "unit", waiting: "any", idleDays: "3", mine: "no", sort: "touched" });
  });
});
