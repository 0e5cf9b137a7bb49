import type { Circuit } from "@fox-lamp/language";
import { channelOf, pinsOf, placeMeant } from "./placing";

const CIRCUITS: Circuit[] = [
  { id: "crank", family: "vr-2w", title: "Crankshaft sensor" },
  { id: "cam", family: "hall-3w", title: "Camshaft sensor" },
];
const pins = pinsOf(CIRCUITS);

describe("where a channel's lead was", () => {
  it.each([
    ["cam:sig", { circuit: "cam", pin: "sig", at: "sensor" }],
    ["cam:feed@module", { circuit: "cam", pin: "feed", at: "module" }],
    ["gnd", { circuit: "cam", pin: "gnd", at: "sensor" }],
    ["crank", { circuit: "crank", pin: "sig+", at: "sensor" }],
    ["Crankshaft sensor", { circuit: "crank", pin: "sig+", at: "sensor" }],
    ["cam signal sig", { circuit: "cam", pin: "sig", at: "sensor" }],
  ])("is meant by %s", (name, place) => {
    expect(placeMeant(name, pins)).toEqual(place);
  });
  it("is nobody's to guess for other names", () => {
    expect(placeMeant("Channel A", pins)).toBeNull();
    expect(placeMeant("sig", pinsOf([...CIRCUITS, { id: "cam2", family: "hall-3w" }]))).toBeNull();
  });
  it("gives a channel its leads; a pair is measured against its other wire", () => {
    expect(channelOf("a", "V", { circuit: "crank", pin: "sig+", at: "module" }, pins)).toEqual({
      name: "crank:sig+",
      unit: "V",
      circuit: "crank",
      red: "sig+@module",
      black: "sig-@module",
    });
    expect(channelOf("Channel A", "V", null, pins)).toMatchObject({ name: "Channel A", circuit: null, red: null });
  });
});
