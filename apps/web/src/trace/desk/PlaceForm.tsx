import type { CaptureFile, KnownCapture, Setup, StoredChannel } from "@fox-lamp/language";
import { useState } from "react";
import { messages } from "../../messages";
import { Block, Button, Select, TextField } from "../../ui/form";
import { channelOf, type Pinned, type Place, placeMeant } from "./placing";
import { KEYS, type Key, STIMULI, type Stimulus, stimulusOf } from "./states";
import type { Fresh } from "./use-fresh";

const t = messages.traces;
const NONE = "";

interface Props {
  readonly fresh: Fresh;
  readonly pins: readonly Pinned[];
  readonly busy: boolean;
  /** Captures cam edges can be compared with. */
  readonly known: readonly KnownCapture[];
  /** The state an earlier capture was taken in, which this one repeats. */
  readonly like?: Setup | undefined;
  readonly onJudge: (channels: StoredChannel[], setup: Setup, title: string, known: CaptureFile | undefined) => void;
}

/** What a brought capture's channels are, and in which state the car was: guessed from the names, put right by whoever took it. */
export function PlaceForm({ fresh, pins, busy, known, like, onJudge }: Props) {
  const { channels } = fresh.read;
  const [places, setPlaces] = useState<readonly (Place | null)[]>(() => channels.map(({ name }) => placeMeant(name, pins)));
  const [title, setTitle] = useState(fresh.title);
  const [key, setKey] = useState<Key>(like?.key ?? "idle");
  const [stimulus, setStimulus] = useState<Stimulus>(() => stimulusOf(like));
  const [rpm, setRpm] = useState(like?.rpm === undefined ? "" : `${like.rpm}`);
  const [against, setAgainst] = useState(() => known.find(({ same }) => same)?.id ?? NONE);
  const change = (index: number, place: Place | null): void => setPlaces(places.map((one, at) => (at === index ? place : one)));
  const options: (readonly [string, string])[] = [
    [NONE, t.noCircuit],
    ...pins.map(({ circuit, title: called, pin }) => [`${circuit}:${pin}`, `${called}: ${pin}`] as const),
  ];
  const judge = (): void => {
    const turning = key === "crank" || key === "idle" || key === "rev";
    const speed = Number(rpm.replace(",", "."));
    const setup: Setup = {
      key,
      ...(turning && rpm.trim() !== "" && speed > 0 ? { rpm: speed } : {}),
      ...(stimulus === "none" ? {} : { stimulus: { kind: stimulus } }),
    };
    const named = channels.map(({ name, unit }, index) => channelOf(name, unit, places[index] ?? null, pins));
    // Two leads on one pin are two channels: the second keeps its own name.
    const seen = new Set<string>();
    onJudge(
      named.map((channel, index) => {
        const twice = seen.has(channel.name);
        seen.add(channel.name);
        return twice ? { ...channel, name: channels[index]?.name ?? channel.name } : channel;
      }),
      setup,
      title.trim() || fresh.title,
      known.find(({ id }) => id === against)?.analysis,
    );
  };
  return (
    <Block title={t.channels}>
      <p className="m-0 mb-3 text-sm text-soft">{t.channelsLead}</p>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
        {channels.map(({ name }, index) => {
          const place = places[index] ?? null;
          return (
            <div key={name} className="grid grid-cols-[1fr_8.5rem] items-end gap-2">
              <Select
                label={t.lead_(name)}
                options={options}
                value={place === null ? NONE : `${place.circuit}:${place.pin}`}
                onChange={(chosen) => {
                  const pin = pins.find((one) => `${one.circuit}:${one.pin}` === chosen);
                  change(index, pin === undefined ? null : { circuit: pin.circuit, pin: pin.pin, at: place?.at ?? "sensor" });
                }}
              />
              <Select
                label={t.place}
                options={[
                  ["sensor", t.places["sensor"] ?? ""],
                  ["module", t.places["module"] ?? ""],
                ]}
                value={place?.at ?? "sensor"}
                onChange={(at) => place !== null && change(index, { ...place, at })}
              />
            </div>
          );
        })}
        <Select label={t.key} options={KEYS} value={key} onChange={setKey} />
        <Select label={t.what} options={STIMULI} value={stimulus} onChange={setStimulus} />
        {(key === "idle" || key === "rev" || key === "crank") && (
          <TextField label={t.rpm} inputMode="numeric" value={rpm} onChange={(event) => setRpm(event.target.value)} />
        )}
        {known.length > 0 && (
          <Select
            label={t.knownFor}
            options={[[NONE, t.knownForNone], ...known.map(({ id, title: called, vehicle, number }) => [id, t.ofVehicle(called, vehicle, number)] as const)]}
            value={against}
            onChange={setAgainst}
          />
        )}
        <TextField label={t.name} value={title} onChange={(event) => setTitle(event.target.value)} />
      </div>
      <div className="mt-3">
        <Button weight="next" disabled={busy} onClick={judge}>
          {busy ? t.judging : t.judge}
        </Button>
      </div>
    </Block>
  );
}
