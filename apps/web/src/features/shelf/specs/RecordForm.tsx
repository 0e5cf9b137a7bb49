import { COLUMNS, readTable, writeTable } from "@fox-lamp/core";
import type { ShelfKind, ShelfLookAnswer, ShelfRecord, SpecCurve } from "@fox-lamp/language";
import { useState } from "react";
import { reasonOf, useLookAtSpecsMutation, usePutSpecMutation } from "../../../app/api";
import { CurveEditor } from "../../../curve/CurveEditor";
import { rowsOf } from "../../../curve/rows";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";
import { Button, Select, TextField } from "../../../ui/form";
import { Modal } from "../../../ui/Modal";
import { toast } from "../../../ui/toast";
import { choicesOf } from "./choices";

const t = messages.specs;
type Texts = Readonly<Record<string, string>>;

const FIRST: Texts = { family: "thermistor-2w", meter: "volts-dc", unit: "V", kind: "temperature-ohms", "source kind": "document", key: "on" };

/** The texts a record stands in the form with. */
function textsOf(kind: ShelfKind, item: ShelfRecord | null): Texts {
  if (item === null) return FIRST;
  const [names = [], cells = []] = writeTable(kind, [item]);
  return Object.fromEntries(names.map((name, index) => [name, cells[index] ?? ""]));
}

/** A record of texts, read as a row of a table is. */
function recordOf(kind: ShelfKind, texts: Texts, points: string): ReturnType<typeof readTable> {
  const names = COLUMNS[kind].map(({ name }) => name);
  const row = (over: Texts): string[] => names.map((name) => over[name] ?? texts[name] ?? "");
  const named = { name: texts["name"] || t.unnamed };
  const rows = kind === "curve" ? rowsOf(points).map(([x, y]) => row({ ...named, x, y })) : [row({})];
  return readTable(kind, [names, ...rows]);
}

interface Props {
  readonly kind: ShelfKind;
  readonly id: string | null;
  readonly item: ShelfRecord | null;
  readonly onClose: () => void;
}

/** A record written or changed: asked field by field, looked at by physics before it goes on the shelf. */
export function RecordForm({ kind, id, item, onClose }: Props) {
  const [texts, setTexts] = useState<Texts>(() => textsOf(kind, item));
  const [points, setPoints] = useState(() => (item?.kind === "curve" ? item.record.points.map((point) => point.join(", ")).join("\n") : ""));
  const [problems, setProblems] = useState<Texts>({});
  const [looked, setLooked] = useState<{ readonly of: string; readonly answer: ShelfLookAnswer[number] } | null>(null);
  const [look, { isLoading: looking }] = useLookAtSpecsMutation();
  const [put, { isLoading: putting }] = usePutSpecMutation();
  const columns = COLUMNS[kind].filter(({ name }) => name !== "x" && name !== "y");
  const typed = JSON.stringify([texts, points]);
  const warned = looked !== null && looked.of === typed ? looked.answer : null;
  const save = async (): Promise<void> => {
    const read = recordOf(kind, texts, points);
    const [made] = read.records;
    setProblems(Object.fromEntries(read.problems.map(({ column, message }) => [column === "x" || column === "y" ? "points" : (column ?? ""), message])));
    if (made === undefined || read.problems.length > 0) {
      if (read.problems.length === 0) setProblems({ points: t.needsPoints });
      return;
    }
    if (warned === null) {
      const answer = await look([made.item]);
      if ("error" in answer) return void toast.error(reasonOf(answer.error) ?? messages.states.failed);
      const [one] = answer.data;
      if (one !== undefined && (one.problems.length > 0 || (one.twin !== null && one.twin !== id))) return setLooked({ of: typed, answer: one });
    }
    const stored = await put({ id, item: made.item });
    if ("error" in stored) return void toast.error(reasonOf(stored.error) ?? messages.states.failed);
    toast.success(t.stored);
    onClose();
  };
  return (
    <Modal open onOpen={(open) => !open && onClose()} title={id === null ? t.adding[kind] : t.changing[kind]} width="wide">
      <div className="mt-3 grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
        {columns.map((column) => {
          const { name } = column;
          const choices = choicesOf(name);
          const shared = { label: t.columns[name] ?? name, error: problems[name], value: texts[name] ?? "" };
          if (choices !== null) return <Select key={name} {...shared} options={choices} onChange={(value) => setTexts({ ...texts, [name]: value })} />;
          return (
            <TextField
              key={name}
              {...shared}
              type={name === "date" ? "date" : "text"}
              placeholder={name === "date" ? undefined : column.example}
              onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
            />
          );
        })}
      </div>
      {kind === "curve" && (
        <div className="mt-3">
          <CurveEditor
            label={t.points}
            kind={texts["kind"] as SpecCurve["kind"]}
            text={points}
            onText={setPoints}
            tolerance={Number(texts["tolerance"] ?? 0) / 100 || 0}
            error={problems["points"]}
          />
        </div>
      )}
      {problems[""] !== undefined && (
        <p role="alert" className="m-0 mt-3 text-ember">
          {problems[""]}
        </p>
      )}
      {warned?.problems.map(({ code, reason }) => (
        <p key={code} role="alert" className="m-0 mt-3 rounded-lg bg-caution px-3 py-2">
          {t.cannotBe(unitsAsWritten(reason))}
        </p>
      ))}
      {warned !== null && warned.twin !== null && warned.twin !== id && (
        <p role="alert" className="m-0 mt-3 rounded-lg bg-caution px-3 py-2">
          {t.twin}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button weight="next" disabled={looking || putting} onClick={() => void save()}>
          {warned === null ? t.put : t.putAnyway}
        </Button>
        <Button onClick={onClose}>{messages.complaint.cancel}</Button>
      </div>
    </Modal>
  );
}
