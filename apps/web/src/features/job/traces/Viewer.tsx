import type { StoredCapture } from "@fox-lamp/language";
import { ChevronLeft, ChevronRight, Maximize2, ZoomIn, ZoomOut } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { messages } from "../../../messages";
import { type Lane, scaleOf } from "../../../trace/draw";
import { type Cursors, Scope } from "../../../trace/Scope";
import { useNear } from "../../../trace/use-near";
import { useOverview } from "../../../trace/use-overview";
import { around, moved, type View, zoomed } from "../../../trace/view";
import { Button } from "../../../ui/form";
import { Between } from "./Between";
import { Findings } from "./Findings";
import { markedOn, stretchesOf } from "./stretches";

const t = messages.traces;
const STEP = 0.5;
const MOVE = 0.25;

interface Props {
  /** Under which the worker holds it. */
  readonly id: string;
  readonly stored: StoredCapture;
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

/** Another capture, and how much later things happen here than there, seconds. */
export interface Other {
  readonly id: string;
  readonly stored: StoredCapture;
  readonly later: number;
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
export function Viewer({ id, stored, nameOf, marks, onMark, look, other, children }: Props) {
  const { length, rate, start, channels } = stored;
  const [view, setView] = useState<View>(() =>
    look === undefined ? { from: 0, to: length } : around((look.from - start) * rate, (look.to - start) * rate, length),
  );
  const [cursors, setCursors] = useState<Cursors>(() => (look === undefined ? [null, null] : [(look.from - start) * rate, (look.to - start) * rate]));
  const [chosen, setChosen] = useState(0);
  const [width, setWidth] = useState(800);
  const { pyramids, problem } = useOverview(id, channels.length);
  const near = useNear(id, channels.length, view, width, length);
  const { pyramids: behind } = useOverview(other?.id ?? id, other?.stored.channels.length ?? 0);
  const lanes = useMemo(
    () =>
      channels.map(({ name, unit }, index): Lane => {
        const pyramid = pyramids[index] ?? [];
        const lane = { name: nameOf(name), unit, pyramid, near: near[index] ?? null, ...scaleOf(pyramid, name), band: null, chosen: index === chosen };
        const twin = other?.stored.channels.findIndex((channel) => channel.name === name) ?? -1;
        const twinPyramid = behind[twin];
        if (other === undefined || !twinPyramid) return lane;
        const each = other.stored.rate / rate;
        const at = (start - other.later - other.stored.start) * other.stored.rate;
        return { ...lane, other: { pyramid: twinPyramid, length: other.stored.length, at, each } };
      }),
    [channels, pyramids, behind, other, near, chosen, nameOf, rate, start],
  );
  const placeOf = (seconds: number): number => (seconds - start) * rate;
  const marked = useMemo(() => markedOn(stored, [...stretchesOf(stored.analysis), ...marks]), [stored, marks]);
  const middle = 0.5 * (view.from + view.to);
  const span = view.to - view.from;
  return (
    <div className="grid gap-3">
      {problem !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {problem}
        </p>
      )}
      <Scope
        label={t.picture(channels.map(({ name }) => nameOf(name)).join(", "))}
        view={view}
        length={length}
        rate={rate}
        start={start}
        lanes={lanes}
        marked={marked}
        cursors={cursors}
        onView={setView}
        onCursors={setCursors}
        onChoose={setChosen}
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
        {children}
      </div>
      <div className="grid gap-3 lg:grid-cols-2">
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
        <Between id={id} stored={stored} chosen={chosen} cursors={cursors} nameOf={nameOf} onMark={onMark} />
      </div>
    </div>
  );
}
