import { spokenCode } from "./spoken-code";

it("codes are of letters nobody mistakes for another, and differ", () => {
  const codes = Array.from({ length: 200 }, () => spokenCode(10));
  for (const code of codes) expect(code).toMatch(/^[A-HJ-NP-Z2-9]{10}$/u);
  expect(new Set(codes).size).toBe(codes.length);
});
