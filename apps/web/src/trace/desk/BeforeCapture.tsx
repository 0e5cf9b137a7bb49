import {
  buildModel,
  type Demonstration,
  formatQuantity,
  lowestLevel,
  pyramidOver,
  type ScopeAdvice,
  scopeAdvice,
  WRONG_SETUPS,
  type WrongSetup,
} from "@fox-lamp/core";
import type { Circuit } from "@fox-lamp/language";
import { useEffect, useMemo, useState } from "react";
import { messages } from "../../messages";
import { Block, Select } from "../../ui/form";
import { type Lane, scaleOf } from "../draw";
import { Scope } from "../Scope";
import { answered, captureService } from "../service";
import type { View } from "../view";
import { adviceLines, wrongSays } from "./advice-text";
import { KEYS, type Key } from "./states";

const t = messages.traces;
const NONE = "";
const NO_CURSORS = [null, null] as const;

function laneOf(name: string, samples: Float32Array, like: Lane | null): Lane {
  const pyramid = pyramidOver(lowestLevel(samples));
  const scale = like === null ? scaleOf(pyramid) : { low: Math.min(like.low, scaleOf(pyramid).low), high: Math.max(like.high, scaleOf(pyramid).high) };
  return { name, unit: "V", pyramid, near: { from: 0, samples }, ...scale, bands: [], less: 0, chosen: false };
}

/** The same signal twice: through a scope that is set as it should be, and through one that is not. */
function Demonstrated({ shown, which }: { shown: Demonstration; which: WrongSetup }) {
  const [view, setView] = useState<View>(() => first(shown, which));
  const lanes = useMemo(() => {
    const right = laneOf(t.rightLane, shown.right, null);
    return [right, laneOf(t.wrongLane, shown.wrong, right)];
  }, [shown]);
  return (
    <>
      <Scope
        label={t.picture(`${t.rightLane}, ${t.wrongLane}`)}
        view={view}
        length={shown.right.length}
        rate={shown.rate}
        start={0}
        lanes={lanes}
        marked={[]}
        cursors={NO_CURSORS}
        onView={setView}
        onCursors={() => undefined}
        onChoose={() => undefined}
        onWidth={() => undefined}
      />
      <p className="m-0 mt-2">{wrongSays(which, shown)}</p>
    </>
  );
}

/** Where a demonstration is looked at first: a spike close by, a row of pulses from its beginning, so many that their shape is seen. */
function first({ right, rate }: Demonstration, which: WrongSetup): View {
  const all = right.length;
  if (which === "no-peak") return { from: Math.max(0, 0.55 * all - 0.01 * rate), to: Math.min(all, 0.55 * all + 0.012 * rate) };
  return { from: 0, to: Math.min(all, Math.max(400, 0.12 * all)) };
}

/** How a scope is set for a circuit before anything is captured, and what it would hide set otherwise. */
export function BeforeCapture({ circuits }: { circuits: readonly Circuit[] }) {
  const model = useMemo(() => buildModel(circuits), [circuits]);
  const [chosen, setChosen] = useState(model.circuits[0]?.id ?? "");
  const [key, setKey] = useState<Key>("idle");
  const [which, setWhich] = useState<WrongSetup | typeof NONE>(NONE);
  const [shown, setShown] = useState<{ which: WrongSetup; of: Demonstration } | null>(null);
  const circuit = model.circuits.find(({ id }) => id === chosen) ?? model.circuits[0];
  const advice = useMemo((): ScopeAdvice | null => (circuit === undefined ? null : scopeAdvice(model, circuit, { key })), [model, circuit, key]);
  useEffect(() => {
    setShown(null);
    if (which === NONE || circuit === undefined) return;
    let current = true;
    answered(captureService().demonstrate(circuits, circuit.id, { key }, which))
      .then((of) => current && setShown({ which, of }))
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [which, circuit, circuits, key]);
  if (circuit === undefined || advice === null) return null;
  return (
    <Block title={t.setUp}>
      <p className="m-0 mb-2 text-sm text-soft">{t.setUpLead}</p>
      <div className="grid gap-3 sm:grid-cols-3">
        {model.circuits.length > 1 && (
          <Select label={t.circuit} options={model.circuits.map(({ id, title }) => [id, title] as const)} value={circuit.id} onChange={setChosen} />
        )}
        <Select label={t.setUpKey} options={KEYS} value={key} onChange={setKey} />
        <Select
          label={t.wrong}
          options={[[NONE, t.wrongNone], ...WRONG_SETUPS.map((one) => [one, t.wrongKinds[one]] as const)]}
          value={which}
          onChange={setWhich}
        />
      </div>
      <ul className="m-0 mt-3 list-disc space-y-1 pl-5">
        {adviceLines(advice).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {which !== NONE && (
        <div className="mt-3">
          {shown === null ? (
            <p className="m-0 text-soft">{messages.states.loading}</p>
          ) : (
            <Demonstrated key={`${shown.which} ${formatQuantity(shown.of.set, "V")}`} shown={shown.of} which={shown.which} />
          )}
        </div>
      )}
    </Block>
  );
}
