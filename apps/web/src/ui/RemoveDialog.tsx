import { type FormEvent, useState } from "react";
import { messages } from "../messages";
import { Button, TextField } from "./form";
import { Modal } from "./Modal";

const t = messages.removal;

/** Asks why something is to go for good, and does it. @param remove gives what went wrong; null when it is gone */
export function RemoveDialog({
  open,
  onOpen,
  title,
  lead,
  remove,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
  title: string;
  lead: string;
  remove: (reason: string) => Promise<string | null>;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    setProblem(await remove(String(new FormData(event.currentTarget).get("reason") ?? "").trim()));
  };
  return (
    <Modal open={open} onOpen={onOpen} title={title} lead={lead} width="narrow">
      <form onSubmit={(event) => void send(event)} className="grid gap-3">
        <TextField name="reason" label={t.reason} required maxLength={500} error={problem ?? undefined} />
        <div className="flex gap-2">
          <Button type="submit" className="flex-1">
            {t.remove}
          </Button>
          <Button weight="next" onClick={() => onOpen(false)} className="flex-1">
            {t.keep}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
