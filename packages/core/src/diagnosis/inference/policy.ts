import { type Policy, USUAL_POLICY } from "../../procedures";

/** The part of a shop's policy that changes what is offered; unknown fields are left alone. */
export function policyOf(given: Readonly<Record<string, unknown>> | undefined): Policy {
  const bypass = given?.["bypass"];
  const resistance = given?.["resistance"];
  return {
    bypass: bypass === "wire" || bypass === "resistor" || bypass === "both" ? bypass : USUAL_POLICY.bypass,
    resistance: typeof resistance === "boolean" ? resistance : USUAL_POLICY.resistance,
  };
}
