import { buildModel, CURRENT, clampedPin } from "@fox-lamp/core";
import type { EntryOf, Setup, StoredChannel } from "@fox-lamp/language";
import { useMemo, useState } from "react";
import { messages } from "../../messages";
import { Block, Button, Chip, Select } from "../../ui/form";
import { channelOf, type Pinned, usualPins } from "./placing";
import { KEYS, type Key, STIMULI, type Stimulus, stimulusOf } from "./states";
import type { TracedJob } from "./traced-job";

const t = messages.traces;
const SECONDS = [0.1, 0.5, 1, 4, 10];
const RATES = [1000, 10_000, 50_000, 200_000];
/** The server makes no more samples at once. */
const MOST_SAMPLES = 4_000_000;
const MOST_CHANNELS = 8;

interface Props {
  readonly job: TracedJob["job"];
  readonly pins: readonly Pinned[];
  /** A capture this one repeats. */
  readonly like?: Pick<EntryOf<"capture">["body"], "channels" | "setup" | "title"> | undefined;
  readonly onCapture: (samples: Float32Array[], rate: number, channels: StoredChannel[], title: string, setup: Setup) => void;
  readonly onProblem: (problem: string) => void;
}

/** A capture of the virtual car's own scope: any circuits, any state, as a real one would store it. */
export function ScopeForm({ job, pins, like, onCapture, onProblem }: Props) {
  const model = useMemo(() => buildModel(job.circuits), [job.circuits]);
  const [first] = model.circuits;
  const [chosen, setChosen] = useState<readonly string[]>(
    () => like?.channels.filter((name) => name.includes(":")) ?? (first === undefined ? [] : usualPins(first).map((pin) => `${first.id}:${pin}`)),
  );
  const [key, setKey] = useState<Key>(like?.setup?.key ?? "idle");
  const [stimulus, setStimulus] = useState<Stimulus>(() => stimulusOf(like?.setup));
  const [seconds, setSeconds] = useState("1");
  const [rate, setRate] = useState("10000");
  const [bits, setBits] = useState<"8" | "12">("8");
  const [busy, setBusy] = useState(false);
  const circuit = pins.find((pin) => `${pin.circuit}:${pin.pin}` === chosen[0])?.circuit ?? first?.id ?? "";
  const title = model.circuits.find(({ id }) => id === circuit)?.title ?? circuit;
  const wireOf = (owner: string): string => clampedPin(model.circuits.find(({ id }) => id === owner)?.pins ?? []) ?? "";
  const clamps = model.circuits
    .filter(({ family }) => family.traits.kind === "valve")
    .map(({ id, title: called }) => ({ circuit: id, title: called, pin: CURRENT }));
  const tooMany = chosen.length * Number(seconds) * Number(rate) > MOST_SAMPLES;
  const take = async (): Promise<void> => {
    const setup: Setup = { key, ...(stimulus === "none" ? {} : { stimulus: { kind: stimulus } }) };
    const channels = chosen.map((name) => {
      const [owner = "", pin = ""] = name.split(":");
      if (pin !== CURRENT) return channelOf(name, "V", { circuit: owner, pin, at: "sensor" }, pins);
      return channelOf(name, "A", { circuit: owner, pin: wireOf(owner), at: "sensor" }, pins);
    });
    const asked = channels.map(({ name, red, black, circuit: owner }) => ({
      name,
      red: `${owner}:${red}`,
      black: black === null || black === "bat-" ? black : `${owner}:${black}`,
    }));
    setBusy(true);
    try {
      const answer = await fetch(`/api/jobs/${job.id}/scope`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        credentials: "same-origin",
        body: JSON.stringify({ circuit, channels: asked, seconds: Number(seconds), rate: Number(rate), setup, bits: Number(bits) }),
      });
      if (!answer.ok) {
        onProblem(((await answer.json().catch(() => null)) as { message?: string } | null)?.message ?? messages.states.failed);
        return;
      }
      const all = new Float32Array(await answer.arrayBuffer());
      const each = all.length / channels.length;
      onCapture(
        channels.map((_, index) => all.slice(index * each, (index + 1) * each)),
        Number(rate),
        channels,
        like === undefined ? `${title}, ${t.keys[key].toLowerCase()}` : t.afterRepair(like.title),
        setup,
      );
    } catch {
      onProblem(messages.states.failed);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Block title={t.simulate}>
      <p className="m-0 mb-3 text-sm text-soft">{t.simulateLead}</p>
      <fieldset className="m-0 mb-3 flex flex-wrap gap-2 border-0 p-0">
        <legend className="mb-1 text-sm text-soft">{t.channels}</legend>
        {[...pins, ...clamps].map(({ circuit: owner, title: called, pin }) => {
          const name = `${owner}:${pin}`;
          const on = chosen.includes(name);
          return (
            <Chip
              key={name}
              on={on}
              onChange={(want) => setChosen(want ? [...chosen, name].slice(0, MOST_CHANNELS) : chosen.filter((other) => other !== name))}
            >
              {model.circuits.length > 1 ? `${called}: ${pin === CURRENT ? t.clamp : pin}` : pin === CURRENT ? t.clamp : pin}
            </Chip>
          );
        })}
      </fieldset>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-5">
        <Select label={t.key} options={KEYS} value={key} onChange={setKey} />
        <Select label={t.what} options={STIMULI} value={stimulus} onChange={setStimulus} />
        <Select label={t.seconds} options={SECONDS.map((value) => [`${value}`, `${value}`] as const)} value={seconds} onChange={setSeconds} />
        <Select label={t.rate} options={RATES.map((value) => [`${value}`, value.toLocaleString("en")] as const)} value={rate} onChange={setRate} />
        <Select
          label={t.bits}
          options={[
            ["8", "8"],
            ["12", "12"],
          ]}
          value={bits}
          onChange={setBits}
        />
      </div>
      <div className="mt-3">
        <Button disabled={busy || chosen.length === 0 || tooMany} onClick={() => void take()}>
          {busy ? t.taking : t.take}
        </Button>
        {tooMany && <span className="ml-3 text-sm text-soft">{t.tooMany}</span>}
      </div>
    </Block>
  );
}
