import { X } from "lucide-react";
import { useSearchParams } from "react-router";
import { settingsChanged } from "../../../app/settings";
import { useAppDispatch } from "../../../app/store";
import { messages } from "../../../messages";
import type { Bench } from "../use-bench";

const t = messages.guide;

/** Which step of the first job is at hand: it follows what was done, nothing has to be confirmed. */
function stepOf(bench: Bench, decided: boolean): keyof typeof t.steps {
  if (decided) return "verdict";
  if (bench.question !== null) return "question";
  if (bench.state.readings.length === 0) return bench.text === "" ? "first" : "take";
  if (bench.text !== "") return "take";
  return bench.state.readings.length === 1 ? "moved" : "onward";
}

/** The first visit's guided job: two minutes beside the real bench, to be left at any time. */
export function Guide({ bench, decided }: { bench: Bench; decided: boolean }) {
  const [query, setQuery] = useSearchParams();
  const dispatch = useAppDispatch();
  if (!query.has("guide")) return null;
  const leave = (): void => {
    dispatch(settingsChanged({ guided: true }));
    setQuery({}, { replace: true });
  };
  return (
    <div role="status" className="mb-4 rounded-xl border-2 border-lamp px-4 py-3">
      <div className="flex items-start justify-between gap-3">
        <p className="m-0 font-bold text-lamp">{t.title}</p>
        <button type="button" onClick={leave} className="grid size-9 place-items-center text-soft" aria-label={t.leave} title={t.leave}>
          <X size={18} aria-hidden="true" />
        </button>
      </div>
      <p className="m-0 text-sm">{t.steps[stepOf(bench, decided)]}</p>
      {decided && (
        <button type="button" onClick={leave} className="mt-2 h-10 rounded-lg border border-lamp px-4 font-bold text-ink">
          {t.done}
        </button>
      )}
    </div>
  );
}
