import { type ReactNode, useState } from "react";
import { messages } from "../messages";
import { Button } from "./form";
import { Modal } from "./Modal";

interface Props {
  /** The button that starts it, and says what will be done. */
  readonly label: string;
  readonly title: string;
  readonly lead: string;
  readonly weight?: "other" | "quiet";
  readonly onYes: () => void;
  readonly children?: ReactNode;
}

/** A button for something that takes away what others have: it asks first, and the way back is as near as the way on. */
export function AskFirst({ label, title, lead, weight = "other", onYes, children }: Props) {
  const [open, setOpen] = useState(false);
  const yes = (): void => {
    setOpen(false);
    onYes();
  };
  return (
    <>
      <Button weight={weight} onClick={() => setOpen(true)}>
        {children ?? label}
      </Button>
      <Modal open={open} onOpen={setOpen} title={title} width="narrow">
        <p className="mt-2">{lead}</p>
        <div className="mt-4 flex flex-wrap gap-2">
          <Button weight="next" onClick={yes}>
            {label}
          </Button>
          <Button onClick={() => setOpen(false)}>{messages.complaint.cancel}</Button>
        </div>
      </Modal>
    </>
  );
}
