import { QRCodeSVG } from "qrcode.react";
import { Dialog } from "radix-ui";
import { messages } from "../../../messages";

const t = messages.callout;

/** A code as it is read aloud: in two halves. */
const inHalves = (code: string): string => `${code.slice(0, 5)} ${code.slice(5)}`;

/** The code another device opens, as letters, as a link and as a picture to photograph. */
export function CalloutDialog({ code, open, onOpen, onStop }: { code: string | null; open: boolean; onOpen: (open: boolean) => void; onStop: () => void }) {
  const address = `${location.origin}/callout/${code ?? ""}`;
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content className="fixed left-1/2 top-1/2 z-40 w-[min(26rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-2xl border border-line bg-panel p-6 text-center shadow-2xl">
          <Dialog.Title className="text-xl font-bold">{t.title}</Dialog.Title>
          <Dialog.Description className="mb-4 mt-1 text-sm text-soft">{t.hint}</Dialog.Description>
          <p className="readout my-3 whitespace-nowrap text-3xl font-bold tracking-[0.12em] text-lamp">
            {code === null ? messages.states.loading : inHalves(code)}
          </p>
          <div className="mx-auto mb-3 w-fit rounded-xl bg-white p-3">
            <QRCodeSVG value={address} size={148} title={t.picture} />
          </div>
          <a href={address} target="_blank" rel="noreferrer" className="break-all text-ink underline decoration-lamp underline-offset-4">
            {address}
          </a>
          <div className="mt-5 flex gap-2">
            <Dialog.Close className="h-12 flex-1 rounded-xl bg-lamp font-bold text-on-lamp">{t.keep}</Dialog.Close>
            <button type="button" onClick={onStop} className="h-12 rounded-xl border border-edge px-5 text-ink">
              {t.stop}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
