import { specifiedOhms, windingOhmsWindow } from "./index";

it("a part's resistance is specified by its sheet, or not at all", () => {
  expect(specifiedOhms({ with: { coil: [20, 28] } }, "purge/coil")).toEqual([20, 28]);
  expect(specifiedOhms({ with: { coil: { value: [20, 28], from: "sister" } } }, "purge/coil")).toEqual([20, 28]);
  expect(specifiedOhms({ with: { coil: { value: [20, 28], from: "family" } } }, "purge/coil")).toBeNull();
  expect(specifiedOhms({}, "purge/coil")).toBeNull();
  expect(specifiedOhms({ with: { heater: [5, 8], resistance: [900, 1200] } }, "o2/heater")).toEqual([5, 8]);
  expect(specifiedOhms({ with: { heater: [5, 8], resistance: [900, 1200] } }, "o2/sensor")).toEqual([900, 1200]);
  expect(specifiedOhms({ with: { resistance: 900 } }, "spd/sensor")).toBeNull();
});

it("a winding's window moves with its copper: a tenth more about 25 degrees warmer", () => {
  expect(windingOhmsWindow([20, 28], null)).toEqual([20, 28]);
  expect(windingOhmsWindow([20, 28], 20)).toEqual([20, 28]);
  const [low, high] = windingOhmsWindow([20, 28], 90);
  expect(low / 20).toBeCloseTo(1.275, 3);
  expect(high / 28).toBeCloseTo(1.275, 3);
  expect(windingOhmsWindow([20, 28], -20)[0]).toBeLessThan(20);
});
