import { channelName, findingInNames } from "./channel-name";

const CRANK = { id: "crank", title: "Crank position" };
const CAM = { id: "cam" };

it("a channel is called by its pin, with its circuit where there are several", () => {
  expect(channelName("crank:sig+", [CRANK])).toBe("sig+");
  expect(channelName("crank:sig+", [CRANK, CAM])).toBe("Crank position sig+");
  expect(channelName("cam:gnd", [CRANK, CAM])).toBe("cam gnd");
  expect(channelName("bat+", [CRANK])).toBe("bat+");
  expect(channelName("lamp:sig", [CRANK])).toBe("lamp:sig");
});

it("a kept finding is told in those names", () => {
  expect(findingInNames("crank:sig+ stands low at 0.1 V for 80 ms, from 0.4200 s.", [CRANK, CAM])).toBe(
    "Crank position sig+ stands low at 0.1 V for 80 ms, from 0.4200 s.",
  );
  expect(findingInNames("bat+ falls to 9 V.", [CRANK])).toBe("bat+ falls to 9 V.");
});
