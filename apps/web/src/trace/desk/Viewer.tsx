import type { Circuit, StoredCapture } from "@fox-lamp/language";
import { ChevronLeft, ChevronRight, Maximize2, ZoomIn, ZoomOut } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { messages } from "../../messages";
import { Button } from "../../ui/form";
import { type LaneSettings, plainLanes } from "../lanes";
import { Scope } from "../Scope";
import type { Cursors } from "../use-gestures";
import { around, moved, type View, zoomed } from "../view";
import { Between } from "./Between";
import { Facts } from "./Facts";
import { Findings } from "./Findings";
import { LanePanel } from "./LanePanel";
import { SaveAs } from "./SaveAs";
import { markedOn, stretchesOf } from "./stretches";
import { type Other, useLanes } from "./use-lanes";

const t = messages.traces;
const STEP = 0.5;
const MOVE = 0.25;

interface Props {
  /** Under which the worker holds it. */
  readonly id: string;
  readonly stored: StoredCapture;
  /** The job's circuits, as they say where a sound one would stay. */
  readonly circuits: readonly Circuit[];
  /** What a lead is called. */
  readonly nameOf: (channel: string) => string;
  /** Stretches seen by hand. */
  readonly marks: readonly {
    readonly channel: string;
    readonly from: number;
    readonly to: number;
    readonly word: string;
    readonly text?: string | undefined;
  }[];
  readonly onMark?: ((mark: { channel: string; from: number; to: number; word: string; text?: string }) => void) | undefined;
  /** Where it is looked at first, seconds. */
  readonly look?: { readonly from: number; readonly to: number } | undefined;
  /** Another capture laid behind this one. */
  readonly other?: Other | undefined;
  readonly children?: ReactNode;
}

/** A small round control of the traces. */
function Control({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }) {
  return (
    <Button aria-label={label} title={label} onClick={onClick} className="grid size-11 place-items-center !p-0">
      {children}
    </Button>
  );
}

/** A capture to look at: its traces, what stands out in them, and what lies between the cursors. */
export function Viewer({ id, stored, circuits, nameOf, marks, onMark, look, other, children }: Props) {
  const { length, rate, start, channels } = stored;
  const [view, setView] = useState<View>(() =>
    look === undefined ? { from: 0, to: length } : around((look.from - start) * rate, (look.to - start) * rate, length),
  );
  const [cursors, setCursors] = useState<Cursors>(() => (look === undefined ? [null, null] : [(look.from - start) * rate, (look.to - start) * rate]));
  const [chosen, setChosen] = useState(0);
  const [width, setWidth] = useState(800);
  const [settings, setSettings] = useState<LaneSettings>(() => plainLanes(channels.length));
  const [failed, setFailed] = useState<string | null>(null);
  const { lanes, shown, problem, banded } = useLanes({ id, stored, circuits, nameOf, settings, view, width, chosen, other });
  const placeOf = (seconds: number): number => (seconds - start) * rate;
  const marked = useMemo(
    () => markedOn(stored, [...stretchesOf(stored.analysis), ...marks]).map((one) => ({ ...one, lane: shown.indexOf(one.lane) })),
    [stored, marks, shown],
  );
  const middle = 0.5 * (view.from + view.to);
  const span = view.to - view.from;
  const lane = lanes[shown.indexOf(chosen)];
  return (
    <div className="grid gap-3">
      {(problem ?? failed) !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {problem ?? failed}
        </p>
      )}
      <Scope
        label={t.picture(shown.map((channel) => nameOf(channels[channel]?.name ?? "")).join(", "))}
        view={view}
        length={length}
        rate={rate}
        start={start}
        lanes={lanes}
        marked={marked}
        cursors={cursors}
        onView={setView}
        onCursors={setCursors}
        onChoose={(place) => setChosen(shown[place] ?? 0)}
        onWidth={setWidth}
      />
      <div className="flex flex-wrap items-center gap-2">
        <Control label={t.left} onClick={() => setView(moved(view, -MOVE * span, length))}>
          <ChevronLeft size={20} aria-hidden="true" />
        </Control>
        <Control label={t.right} onClick={() => setView(moved(view, MOVE * span, length))}>
          <ChevronRight size={20} aria-hidden="true" />
        </Control>
        <Control label={t.closer} onClick={() => setView(zoomed(view, middle, STEP, length))}>
          <ZoomIn size={20} aria-hidden="true" />
        </Control>
        <Control label={t.farther} onClick={() => setView(zoomed(view, middle, 1 / STEP, length))}>
          <ZoomOut size={20} aria-hidden="true" />
        </Control>
        <Control label={t.all} onClick={() => setView({ from: 0, to: length })}>
          <Maximize2 size={18} aria-hidden="true" />
        </Control>
        <SaveAs id={id} stored={stored} chosen={chosen} nameOf={nameOf} onProblem={setFailed} />
        {children}
      </div>
      {banded && <p className="m-0 text-sm text-soft">{t.band}</p>}
      {lane !== undefined && (
        <LanePanel
          settings={settings}
          onSettings={setSettings}
          chosen={chosen}
          onChoose={setChosen}
          names={channels.map(({ name }) => nameOf(name))}
          unit={lane.unit}
          scale={lane}
        />
      )}
      <div className="grid gap-3 lg:grid-cols-2">
        <div className="grid content-start gap-3">
          <Findings
            stored={stored}
            marks={marks}
            nameOf={nameOf}
            onShow={({ channel, from, to }) => {
              setView(around(placeOf(from), placeOf(to), length));
              setChosen(
                Math.max(
                  0,
                  channels.findIndex(({ name }) => name === channel),
                ),
              );
            }}
          />
          <Facts stored={stored} nameOf={nameOf} />
        </div>
        <Between id={id} stored={stored} chosen={chosen} cursors={cursors} nameOf={nameOf} onMark={onMark} />
      </div>
    </div>
  );
}
