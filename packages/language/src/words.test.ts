import { PINS } from "./points";
import { GROUND_ROLES, isGroundRole, PIN_ROLES, type PinRole, SUPPLY_ROLES } from "./roles";
import { inSentence, pinWord, placeWord, pointWord, unitTitle } from "./words";

describe("words of pins, places and points", () => {
  it("name every pin, each by its own", () => {
    const words = PINS.map((pin) => pinWord(pin));
    expect(new Set(words).size).toBe(PINS.length);
    for (const word of words) expect(word).toMatch(/^[a-z]/u);
    expect(pinWord("ref", true)).toBe("Reference");
  });
  it("keep what they do not know", () => {
    expect(pinWord("aux7")).toBe("aux7");
    expect(pointWord("somewhere")).toBe("somewhere");
  });
  it.each([
    ["Signal contact at C1", "signal contact at C1"],
    ["AC volts, tapped", "AC volts, tapped"],
    ["C1", "C1"],
    ["5 V reference", "5 V reference"],
    ["", ""],
  ])("%s stands in a sentence as %s", (title, said) => {
    expect(inSentence(title)).toBe(said);
  });
  it.each([
    ["sensor", "at the sensor"],
    ["module", "at the module"],
    ["C1", "at C1"],
    ["S1", "at splice S1"],
    ["part", "on the part"],
  ])("%s is said %s", (place, said) => {
    expect(placeWord(place)).toBe(said);
  });
  it.each([
    ["bat-", "battery negative"],
    ["sig@sensor", "signal at the sensor"],
    ["sig+@C2", "signal + at C2"],
  ])("%s is said %s", (point, said) => {
    expect(pointWord(point)).toBe(said);
  });
});

describe("titles of repair units", () => {
  it.each([
    ["ect/wire:sig", "Signal wire"],
    ["ect/contact:gnd@sensor", "Ground contact at the sensor"],
    ["map/connector:sensor", "Connector at the sensor"],
    ["ect/module:pull", "Module pull-up"],
    ["ect/contacts:module", "Module, or its pin"],
    ["car/ground:engine", "Engine ground"],
    ["car/battery", "Battery"],
    ["o2/heater", "Heater"],
    ["purge/coil", "Winding"],
    ["map/outside", "Outside the circuit"],
    ["", "Nothing wrong here"],
    ["nothing-wrong", "nothing-wrong"],
  ])("%s is %s", (unit, title) => {
    expect(unitTitle(unit)).toBe(title);
  });
  it("call the part by its circuit's own word", () => {
    expect(unitTitle("ect/sensor", "Coolant sensor")).toBe("Coolant sensor");
    expect(unitTitle("ect/sensor")).toBe("sensor");
  });
});

describe("roles of pins", () => {
  it("bring the current, lead it back, or do neither; none does both", () => {
    for (const role of Object.keys(PIN_ROLES) as PinRole[]) {
      const { ground, supply } = PIN_ROLES[role];
      expect(ground && supply).toBe(false);
      expect([GROUND_ROLES.includes(role), SUPPLY_ROLES.includes(role), isGroundRole(role)]).toEqual([ground, supply, ground]);
    }
    expect(GROUND_ROLES).toEqual(["ground", "power-ground", "return"]);
    expect(SUPPLY_ROLES).toEqual(["reference", "feed", "heater-feed"]);
  });
  it("join a shared wire only on the side they are on", () => {
    for (const role of Object.keys(PIN_ROLES) as PinRole[]) {
      const { ground, supply, shared } = PIN_ROLES[role];
      if (shared === "ref") expect(supply).toBe(true);
      if (shared === "gnd") expect(ground).toBe(true);
    }
  });
});
