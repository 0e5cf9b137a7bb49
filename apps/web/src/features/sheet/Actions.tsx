import type { Circuit } from "@fox-lamp/language";
import { messages } from "../../messages";
import { FilePick } from "../../ui/FilePick";
import { Button } from "../../ui/form";
import { saveAs } from "../../ui/picture";
import type { Sheet } from "./use-sheet";

const t = messages.sheet;

function saveCircuit(circuit: Circuit): void {
  saveAs(new Blob([JSON.stringify({ circuits: [circuit] }, null, 2)], { type: "application/json" }), `circuit-${circuit.id}.json`);
}

/** What is done with the circuit as it stands. @param known whether it is on the sheet already */
export function Actions({ sheet: { draft, fileProblem, save, open, remove }, known }: { sheet: Sheet; known: boolean }) {
  const { circuit } = draft;
  return (
    <>
      {fileProblem !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {fileProblem}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button weight="next" onClick={() => void save()} className="min-h-12 flex-1">
          {t.save}
        </Button>
        <FilePick label={t.import} accept=".json,application/json" onFile={(file) => void open(file)}>
          {t.import}
        </FilePick>
        <Button disabled={circuit === null} onClick={() => circuit && saveCircuit(circuit)}>
          {t.export}
        </Button>
        {known && (
          <Button weight="quiet" onClick={remove}>
            {t.remove}
          </Button>
        )}
      </div>
    </>
  );
}
