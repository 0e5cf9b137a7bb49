/** @jest-environment jsdom */
import type { RegisteredVehicle } from "@fox-lamp/language";
import { keepDraft, keptDraft, newJobOf, vehicleIn } from "./form";

const EMPTY = keptDraft();
const BASE = { at: "2026-11-30T08:00:00.000Z", by: "wren" };
const nextId = (): string => "018f0000-0000-7000-8000-0000000000aa";
const WAGON: RegisteredVehicle = {
  id: "018f0000-0000-7000-8000-000000000001",
  details: { name: "Unit 7", plate: "FOX 7" },
  circuits: [{ id: "ect", family: "thermistor-2w" }],
} as unknown as RegisteredVehicle;
const NOTHING_CHOSEN = { chosen: null, hints: [], passing: false, along: true, leftOpen: null } as const;

describe("the form at intake", () => {
  it("reads the vehicle: empty fields are left out, figures are figures", () => {
    expect(vehicleIn({ ...EMPTY, name: " Unit 7 ", year: "2014", mileage: "128 400" })).toEqual({ name: "Unit 7", year: 2014, mileageKm: 128_400 });
  });

  it("opens a job for a new vehicle with the complaint in the customer's words", () => {
    const job = newJobOf({ ...EMPTY, name: "Unit 7", complaint: " Stalls when warm ", when: "since Friday", mileage: "128400" }, NOTHING_CHOSEN, BASE, nextId);
    expect(job).toMatchObject({ vehicle: { name: "Unit 7", mileageKm: 128_400 }, circuits: [] });
    expect(job.entries).toHaveLength(1);
    expect(job.entries?.[0]).toMatchObject({ ...BASE, kind: "complaint", body: { text: "Stalls when warm", when: "since Friday", mileageKm: 128_400 } });
  });

  it("takes a known vehicle's circuits along unless they are left behind", () => {
    const form = { ...EMPTY, complaint: "Lamp on" };
    expect(newJobOf(form, { ...NOTHING_CHOSEN, chosen: WAGON }, BASE, nextId)).toMatchObject({ vehicleId: WAGON.id, circuits: [{ id: "ect" }] });
    expect(newJobOf(form, { ...NOTHING_CHOSEN, chosen: WAGON, along: false }, BASE, nextId).circuits).toEqual([]);
  });

  it("says what is known of the car's life and of its last job in an entry of its own", () => {
    const leftOpen = { job: "J-7", units: ["ect/sensor"] } as never;
    const choices = { ...NOTHING_CHOSEN, chosen: WAGON, hints: ["water"], passing: true, leftOpen };
    const [, known] = newJobOf({ ...EMPTY, complaint: "Lamp on" }, choices, BASE, nextId).entries ?? [];
    expect(known).toMatchObject({ kind: "conditions", body: { hints: ["water"], intermittent: true, facts: { leftOpen } } });
    // What the last job left open belongs to its circuits: without them it is not said.
    const [, without] = newJobOf({ ...EMPTY, complaint: "Lamp on" }, { ...choices, along: false }, BASE, nextId).entries ?? [];
    expect(without).not.toHaveProperty("body.facts");
  });

  it("keeps what was typed until the job is there", () => {
    keepDraft({ ...EMPTY, complaint: "Stalls" });
    expect(keptDraft()).toEqual({ ...EMPTY, complaint: "Stalls" });
    keepDraft(null);
    expect(keptDraft()).toEqual(EMPTY);
    sessionStorage.setItem("fox-lamp/intake", "{no json");
    expect(keptDraft()).toEqual(EMPTY);
  });
});
