import { specifiedOhms } from "./index";

it("a part's resistance is specified by its sheet, or not at all", () => {
  expect(specifiedOhms({ with: { coil: [20, 28] } }, "purge/coil")).toEqual([20, 28]);
  expect(specifiedOhms({ with: { coil: { value: [20, 28], from: "sister" } } }, "purge/coil")).toEqual([20, 28]);
  expect(specifiedOhms({ with: { coil: { value: [20, 28], from: "family" } } }, "purge/coil")).toBeNull();
  expect(specifiedOhms({}, "purge/coil")).toBeNull();
  expect(specifiedOhms({ with: { heater: [5, 8], resistance: [900, 1200] } }, "o2/heater")).toEqual([5, 8]);
  expect(specifiedOhms({ with: { heater: [5, 8], resistance: [900, 1200] } }, "o2/sensor")).toEqual([900, 1200]);
  expect(specifiedOhms({ with: { resistance: 900 } }, "spd/sensor")).toBeNull();
});
