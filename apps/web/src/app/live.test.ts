import { changedIn } from "./live";

describe("what an event says", () => {
  it.each([
    ['{"job":"j","seq":7}', { seq: 7 }],
    ['{"callout":"AB12"}', null],
    ['{"seq":"7"}', null],
    ["changed", null],
    ["", null],
    ["null", null],
  ])("%p is %p", (data, said) => {
    expect(changedIn(data)).toEqual(said);
  });
});
