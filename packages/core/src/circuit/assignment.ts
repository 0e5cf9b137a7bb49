import type { EditField } from "../network";

/** One number of one element, by element name within the circuit. */
export interface Assignment {
  readonly element: string;
  readonly field: EditField;
  readonly value: number;
}
