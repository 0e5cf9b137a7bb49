import { useHotkeys } from "react-hotkeys-hook";
import { useNavigate } from "react-router";
import { themeToggled } from "../../../app/settings";
import { useAppDispatch, useAppSelector } from "../../../app/store";
import { messages } from "../../../messages";
import type { Bench } from "../use-bench";
import type { Opened } from "./opened";
import type { Verb } from "./Palette";

const t = messages.bench;

/** Undo asks for two keys: no single key takes anything back. */
const UNDO = "Ctrl Z";

interface Acts {
  readonly id: string;
  readonly opened: Opened;
  readonly open: (what: Opened) => void;
  readonly onCallout: () => void;
  readonly onRead: () => void;
}

/** Everything the bench can do now; those with a letter are done by it, unless letters are switched off on this device. */
export function useVerbs(bench: Bench, { id, opened, open, onCallout, onRead }: Acts): Verb[] {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const letters = useAppSelector((store) => store.settings.letters);
  const instrument = bench.readInstrument !== null;
  const all: Verb[] = [
    ...(instrument && bench.test ? [{ key: "R", name: t.keys.read, run: onRead }] : []),
    { key: "O", name: t.keys.others, run: () => open("others") },
    { key: "B", name: t.keys.own, run: () => open("own") },
    { key: "S", name: t.keys.skip, run: () => open("skip") },
    ...(bench.undo === null ? [] : [{ key: UNDO, name: t.keys.undo, run: bench.undo }]),
    ...(bench.circuit ? [{ key: "W", name: t.keys.watch, run: () => open("watch") }] : []),
    { key: "C", name: t.keys.callout, run: onCallout },
    { key: "V", name: t.keys.traces, run: () => open("traces") },
    { key: "P", name: t.keys.paper, run: () => void navigate(`/jobs/${id}/paper`) },
    { key: "T", name: t.keys.theme, run: () => void dispatch(themeToggled()) },
    { key: "K", name: t.keys.palette, run: () => open("palette") },
    { key: null, name: t.keys.settings, run: () => void navigate("/settings") },
  ];
  const verbs = letters ? all : all.map((verb) => (verb.key === UNDO ? verb : { ...verb, key: null }));
  useHotkeys(
    [...verbs.flatMap(({ key }) => (key === null || key === UNDO ? [] : [key.toLowerCase()])), "mod+k", "mod+z"],
    (event, { keys: pressed, mod }) => {
      event.preventDefault();
      const wanted = mod === true ? { k: "K", z: UNDO }[pressed?.[0] ?? ""] : pressed?.[0]?.toUpperCase();
      if (wanted === "K") open("palette");
      else verbs.find(({ key }) => key === wanted)?.run();
    },
    { enabled: opened === null && bench.question === null },
    [verbs],
  );
  return verbs;
}
