import type { JobState } from "../job";

/** Rows of a job's readings for a table: one a reading, the first row the names of the columns. Units as in the files: V, ohm, Hz, degC ... */
export function readingRows(state: Pick<JobState, "readings">): (string | number)[][] {
  const rows = state.readings.map(({ reading, at, by, minutes, was }) => {
    const { id, circuit = "", meter, red, black = "", setup = {}, value, unit = "" } = reading;
    const [plain, low, high] = typeof value === "object" ? ["", value.min, value.max] : [value, "", ""];
    const open = (setup.open ?? []).join(" ");
    return [id, at, by, circuit, meter, red, black, setup.key ?? "on", open, plain, low, high, unit, minutes, was.map((old) => JSON.stringify(old)).join(" ")];
  });
  return [["id", "at", "by", "circuit", "meter", "red", "black", "key", "open", "value", "lowest", "highest", "unit", "minutes", "corrected from"], ...rows];
}
