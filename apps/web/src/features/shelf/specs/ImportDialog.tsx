import { COLUMNS, readTable, writeTable } from "@fox-lamp/core";
import { MOST_SHELF_ITEMS, SHELF_KINDS, type ShelfKind, type ShelfLookAnswer } from "@fox-lamp/language";
import Papa from "papaparse";
import { useMemo, useState } from "react";
import { reasonOf, useImportShelfMutation, useLookAtSpecsMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";
import { FilePick } from "../../../ui/FilePick";
import { Button, Select, TextArea, TextField } from "../../../ui/form";
import { Modal } from "../../../ui/Modal";
import { saveAs } from "../../../ui/picture";
import { toast } from "../../../ui/toast";
import { choicesOf } from "./choices";
import { type Cells, cellAt, cellsOf, kindOf, problemCells, withCell, withoutBad } from "./import-table";
import { specTitle, specValue } from "./words";

const t = messages.specs;
const MOST_SHOWN = 60;

/** Which columns a table may have, what stands in them, and a table to begin with. */
function Guide({ kind }: { kind: ShelfKind }) {
  const sample = (): void => {
    const names = COLUMNS[kind].map(({ name }) => name);
    saveAs(new Blob([Papa.unparse([names, COLUMNS[kind].map(({ example }) => example)])], { type: "text/csv" }), `${kind}s.csv`);
  };
  return (
    <details className="mt-3">
      <summary className="flex min-h-11 cursor-pointer items-center text-soft">{t.guide}</summary>
      <dl className="m-0 grid gap-x-4 gap-y-1 text-sm sm:grid-cols-[9rem_1fr]">
        {COLUMNS[kind].map(({ name, what, example, needed }) => (
          <div key={name} className="contents">
            <dt className="readout">
              {name}
              {needed === true && <span className="text-lamp"> *</span>}
            </dt>
            <dd className="m-0 text-soft [overflow-wrap:anywhere]">
              {what} <span className="readout text-ink">{example}</span>
            </dd>
          </div>
        ))}
      </dl>
      <p className="m-0 mt-2 text-sm text-soft">{t.needed}</p>
      <Button className="mt-2" onClick={sample}>
        {t.sample}
      </Button>
    </details>
  );
}

/** A cell to be mended: one of several words, or free. */
function Cell({ label, column, value, error, onValue }: { label: string; column: string; value: string; error: string; onValue: (value: string) => void }) {
  const choices = choicesOf(column);
  if (choices === null) return <TextField label={label} value={value} error={error} onChange={(event) => onValue(event.target.value)} />;
  const known = choices.some(([word]) => word === value);
  return <Select label={label} value={value} error={error} options={known ? choices : [[value, value], ...choices]} onChange={onValue} />;
}

/** Rows that cannot be: each with its cell, to be mended here. */
function Problems({ kind, cells, onCells }: { kind: ShelfKind; cells: Cells; onCells: (cells: Cells) => void }) {
  const problems = problemCells(readTable(kind, cells));
  if (problems.length === 0) return null;
  return (
    <section aria-label={t.badRows} className="mt-4">
      <h3 className="m-0 text-base font-bold text-ember">{t.bad(problems.length)}</h3>
      <ul className="m-0 mt-2 grid list-none gap-2 p-0 sm:grid-cols-2">
        {problems.slice(0, MOST_SHOWN).map(({ row, column, message }) => {
          const cell = column === null || row === 1 ? null : cellAt(cells, row, column);
          const words = t.rowProblem(row, column ?? "", message);
          return (
            <li key={`${row} ${column}`}>
              {cell === null ? (
                <p className="m-0 text-ember">{words}</p>
              ) : (
                <Cell
                  label={t.cell(row, column ?? "")}
                  column={column ?? ""}
                  value={cell}
                  error={words}
                  onValue={(next) => onCells(withCell(cells, row, column ?? "", next))}
                />
              )}
            </li>
          );
        })}
      </ul>
      {problems.some(({ row }) => row > 1) && (
        <Button className="mt-3" onClick={() => onCells(withoutBad(kind, cells))}>
          {t.leaveOut}
        </Button>
      )}
    </section>
  );
}

/** A CSV brought onto the shelf: read, its bad rows told and mended, looked at by physics; then all of it or nothing. */
export function ImportDialog({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [text, setText] = useState("");
  const [cells, setCells] = useState<Cells | null>(null);
  const [kind, setKind] = useState<ShelfKind>("limit");
  const [keepTwins, setKeepTwins] = useState(false);
  const [looked, setLooked] = useState<{ readonly of: Cells; readonly answers: ShelfLookAnswer } | null>(null);
  const [look, { isLoading: looking }] = useLookAtSpecsMutation();
  const [bringIn, { isLoading: bringing }] = useImportShelfMutation();
  const read = useMemo(() => (cells === null ? null : readTable(kind, cells)), [kind, cells]);
  const items = read?.records.map(({ item }) => item) ?? [];
  const answers = looked !== null && looked.of === cells ? looked.answers : null;
  const open = (content: string, from: string): void => {
    const next = cellsOf(content);
    setName(from);
    setCells(next);
    setKind(kindOf(next));
  };
  const lookAt = async (): Promise<void> => {
    if (cells === null) return;
    const answer = await look(items);
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else setLooked({ of: cells, answers: answer.data });
  };
  const store = async (): Promise<void> => {
    const answer = await bringIn({ name, items, twins: keepTwins ? "keep" : "skip" });
    if ("error" in answer) return void toast.error(reasonOf(answer.error) ?? messages.states.failed);
    toast.success(t.imported(answer.data.stored, answer.data.skipped));
    onClose();
  };
  const twins = answers?.filter(({ twin }) => twin !== null).length ?? 0;
  const ready = read !== null && read.problems.length === 0 && items.length > 0;
  return (
    <Modal open onOpen={(next) => !next && onClose()} title={t.importing} lead={t.importLead} width="wide">
      {cells === null ? (
        <>
          <div className="flex flex-wrap gap-2">
            <FilePick label={t.openCsv} accept=".csv,.txt,text/csv,text/plain" onFile={(file) => void file.text().then((content) => open(content, file.name))}>
              {t.openCsv}
            </FilePick>
          </div>
          <div className="mt-3">
            <TextArea label={t.paste} rows={5} value={text} onChange={(event) => setText(event.target.value)} className="readout" />
          </div>
          <Button className="mt-2" disabled={text.trim() === ""} onClick={() => open(text, t.pasted)}>
            {t.readIt}
          </Button>
          <div className="mt-3 max-w-60">
            <Select label={t.guideOf} value={kind} options={SHELF_KINDS.map((one) => [one, t.many[one]] as const)} onChange={setKind} />
          </div>
          <Guide kind={kind} />
        </>
      ) : (
        <>
          <div className="grid items-end gap-3 sm:grid-cols-[14rem_1fr]">
            <Select label={t.holds} value={kind} options={SHELF_KINDS.map((one) => [one, t.many[one]] as const)} onChange={setKind} />
            <p className="m-0 pb-2">
              {name}: {t.readable(items.length)}
            </p>
          </div>
          {items.length > MOST_SHELF_ITEMS && (
            <p role="alert" className="m-0 mt-2 text-ember">
              {t.tooMany(MOST_SHELF_ITEMS)}
            </p>
          )}
          <Problems kind={kind} cells={cells} onCells={setCells} />
          <ul className="m-0 mt-4 max-h-72 list-none overflow-y-auto p-0">
            {items.slice(0, MOST_SHOWN).map((item, index) => (
              <li key={read?.records[index]?.rows[0]} className="border-b border-line py-1.5">
                <span className="flex flex-wrap justify-between gap-x-4">
                  <span>{specTitle(item)}</span>
                  <span className="readout">{specValue(item)}</span>
                </span>
                {answers?.[index]?.problems.map(({ code, reason }) => (
                  <p key={code} className="m-0 text-sm text-ember">
                    {t.cannotBe(unitsAsWritten(reason))}
                  </p>
                ))}
                {(answers?.[index]?.twin ?? null) !== null && <p className="m-0 text-sm text-soft">{t.twin}</p>}
              </li>
            ))}
          </ul>
          {items.length > MOST_SHOWN && <p className="m-0 mt-1 text-sm text-soft">{t.andMore(items.length - MOST_SHOWN)}</p>}
          {answers !== null && (
            <p role="status" className="m-0 mt-3">
              {t.looked(answers.filter(({ problems }) => problems.length > 0).length, twins)}
            </p>
          )}
          {twins > 0 && (
            <label className="mt-1 flex min-h-11 items-center gap-2">
              <input type="checkbox" checked={keepTwins} onChange={(event) => setKeepTwins(event.target.checked)} className="size-4 accent-[var(--lamp)]" />
              {t.keepTwins}
            </label>
          )}
          <div className="mt-4 flex flex-wrap gap-2">
            {answers === null ? (
              <Button weight="next" disabled={!ready || looking} onClick={() => void lookAt()}>
                {looking ? messages.states.loading : t.lookAt}
              </Button>
            ) : (
              <Button weight="next" disabled={!ready || bringing} onClick={() => void store()}>
                {t.bringIn(items.length)}
              </Button>
            )}
            <Button onClick={() => setCells(null)}>{t.otherFile}</Button>
            {read !== null && (
              <Button
                weight="quiet"
                disabled={items.length === 0}
                onClick={() => saveAs(new Blob([Papa.unparse(writeTable(kind, items))], { type: "text/csv" }), `${kind}s.csv`)}
              >
                {t.saveMended}
              </Button>
            )}
          </div>
        </>
      )}
    </Modal>
  );
}
