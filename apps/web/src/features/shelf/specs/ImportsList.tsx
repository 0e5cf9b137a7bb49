import { reasonOf, useShelfImportsQuery, useUndoImportMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { AskFirst } from "../../../ui/AskFirst";
import { whenText } from "../../../ui/dates";
import { Block } from "../../../ui/form";
import { toast } from "../../../ui/toast";

const t = messages.specs;

/** What came at once, to be taken back at once. */
export function ImportsList({ mayChange }: { mayChange: boolean }) {
  const { data = [] } = useShelfImportsQuery();
  const [undo] = useUndoImportMutation();
  const standing = data.filter(({ undone, left }) => !undone && left > 0);
  if (standing.length === 0) return null;
  const takeBack = async (id: string): Promise<void> => {
    const answer = await undo(id);
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.undone(answer.data.count));
  };
  return (
    <Block title={t.imports}>
      <ul className="m-0 list-none p-0">
        {standing.map(({ id, name, by, at, count, left }) => (
          <li key={id} className="flex flex-wrap items-center justify-between gap-x-4 border-b border-line py-1 last:border-0">
            <span>
              <span className="font-bold">{name}</span> <span className="text-sm text-soft">{t.came(by, whenText(at), left, count)}</span>
            </span>
            {mayChange && <AskFirst label={t.undo} title={t.undoTitle} lead={t.undoLead(left, name)} weight="quiet" onYes={() => void takeBack(id)} />}
          </li>
        ))}
      </ul>
    </Block>
  );
}
