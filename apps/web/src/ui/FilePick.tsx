import { type ReactNode, useRef } from "react";
import { Button } from "./form";

interface Props {
  /** What is opened, for those who do not see the button. */
  readonly label: string;
  readonly accept: string;
  readonly disabled?: boolean;
  readonly onFile: (file: File) => void;
  readonly children: ReactNode;
}

/** A button that opens a file of this device; the same file can be chosen again. */
export function FilePick({ label, accept, disabled = false, onFile, children }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button disabled={disabled} onClick={() => input.current?.click()} className="flex items-center gap-2">
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </>
  );
}
