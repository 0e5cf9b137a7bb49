import type { Calculator } from "./calculator";
import { BYPASS, DIVIDER, DROP, HIDDEN, LOAD, RATIOMETRIC, WINDING, WIRE } from "./circuits";
import { CHARGE, INNER, MONEY, RATED } from "./power";
import { ATMOSPHERE, AVERAGE, DEGREES, PRESSURE_SENSOR, TEETH, THERMISTOR, THERMISTOR_THREE } from "./senses";

export {
  type AlsoFollows,
  answerAlong,
  type Calculated,
  type Calculator,
  type CalculatorAnswer,
  type CalculatorField,
  type CalculatorProblem,
  calculate,
} from "./calculator";

/** All of the trade's arithmetic, in the order it is listed. */
export const CALCULATORS: readonly Calculator[] = [
  DIVIDER,
  BYPASS,
  RATIOMETRIC,
  DROP,
  HIDDEN,
  THERMISTOR,
  THERMISTOR_THREE,
  ATMOSPHERE,
  PRESSURE_SENSOR,
  AVERAGE,
  TEETH,
  DEGREES,
  WINDING,
  LOAD,
  WIRE,
  CHARGE,
  RATED,
  INNER,
  MONEY,
];
export { calculatorFor, type OpenedCalculator } from "./from-reading";
