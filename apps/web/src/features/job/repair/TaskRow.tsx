import { type Task, workedUnits } from "@fox-lamp/core";
import { namerOf } from "../../../circuit/names-of";
import { messages } from "../../../messages";
import { useKept } from "../../../ui/kept";
import { aboutText } from "../shared/entry-text";
import type { Work } from "../shared/JobFrame";

const t = messages.repair;

/** One task before the check: done or not, with what is noted to it. */
export function TaskRow({ task, work }: { task: Task; work: Work }) {
  const [text, setText] = useKept(`task ${work.job.id} ${task.id}`, task.text);
  const set = (done: boolean): void => void work.enter({ kind: "task", body: { task: task.id, done, ...(text.trim() ? { text: text.trim() } : {}) } });
  const circuit = work.job.circuits.find(({ id }) => task.about.startsWith(`${id}/`));
  const titled = work.job.circuits.map(({ id, title }) => ({ id, title: title ?? id }));
  const given = ["torque", "sealant", "source"].flatMap((name) => (typeof circuit?.[name] === "string" ? [String(circuit[name])] : []));
  const noted = task.kind === "torque" || task.kind === "contamination";
  return (
    <li className="border-t border-line py-2 first:border-t-0">
      <label className="flex min-h-11 cursor-pointer items-center gap-3">
        <input type="checkbox" checked={task.done} onChange={(event) => set(event.target.checked)} className="size-5 shrink-0 accent-[var(--lamp)]" />
        <span className={task.done ? "text-soft" : ""}>
          {messages.tasks[task.kind]}
          {task.kind === "torque" && <span className="block text-sm text-soft">{given.length > 0 ? t.fromSheet(given.join(", ")) : t.notOnSheet}</span>}
          {workedUnits(work.state).length > 1 && task.about.includes("/") && (
            <span className="block text-sm text-soft">{namerOf(work.job.circuits)(task.about)}</span>
          )}
          {(task.kind === "seal" || task.kind === "plug-in") && <span className="block text-sm text-soft">{aboutText(task.kind, task.about, titled)}</span>}
        </span>
      </label>
      {noted && (
        <input
          aria-label={`${t.taskText}: ${messages.tasks[task.kind]}`}
          placeholder={t.taskText}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => task.done && text.trim() !== task.text && set(true)}
          className="ml-8 min-h-11 w-[calc(100%-2rem)] rounded-lg border border-edge bg-well px-3 text-ink placeholder:text-soft"
        />
      )}
    </li>
  );
}
