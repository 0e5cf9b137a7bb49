import { Camera } from "lucide-react";
import { useState } from "react";
import { reasonOf, useRemovedPhotosQuery, useRemovePhotoMutation } from "../../../app/api";
import { useSession } from "../../../app/session";
import { useStorePhoto } from "../../../app/use-store-photo";
import { messages } from "../../../messages";
import { FilePick } from "../../../ui/FilePick";
import { Block, Button } from "../../../ui/form";
import { Modal } from "../../../ui/Modal";
import { RemoveDialog } from "../../../ui/RemoveDialog";
import type { Work } from "./JobFrame";

const t = messages.intake;

/** The job's photos, made small on this device before they are stored; each with what it shows. */
export function Photos({ job, state, enter, caption = "" }: Work & { caption?: string }) {
  const { store, problem, storing } = useStorePhoto({ job, enter });
  const [shown, setShown] = useState<string | null>(null);
  const large = state.photos.find(({ photo }) => photo === shown);
  const me = useSession();
  const [removing, setRemoving] = useState(false);
  const [removePhoto] = useRemovePhotoMutation();
  const { data: removed = [] } = useRemovedPhotosQuery(job.id, { skip: state.photos.length === 0 });
  const traceOf = (photo: string) => removed.find(({ subject }) => subject === photo);
  const remove = async (reason: string): Promise<string | null> => {
    if (large === undefined) return null;
    const answer = await removePhoto({ job: job.id, photo: large.photo, reason });
    if ("error" in answer) return reasonOf(answer.error) ?? messages.states.failed;
    setRemoving(false);
    setShown(null);
    return null;
  };
  return (
    <Block
      title={t.photos}
      aside={
        <FilePick label={t.photo} accept="image/*" disabled={storing} onFile={(file) => void store(file, caption)}>
          <Camera size={18} aria-hidden="true" /> {t.photo}
        </FilePick>
      }
    >
      {problem !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2 text-sm">
          {problem}
        </p>
      )}
      <ul className="m-0 grid list-none grid-cols-3 gap-2 p-0">
        {state.photos.map(({ photo, caption: says }) => {
          const trace = traceOf(photo);
          return trace !== undefined ? (
            <li key={photo} className="rounded-lg border border-line px-2 py-1.5 text-xs text-soft">
              {says}: {messages.removal.photoGone(trace.by, trace.reason)}
            </li>
          ) : (
            <li key={photo}>
              <button type="button" onClick={() => setShown(photo)} className="w-full overflow-hidden rounded-lg border border-line">
                <img src={`/api/jobs/${job.id}/photos/${photo}`} alt={says} loading="lazy" className="aspect-[4/3] w-full object-cover" />
              </button>
              <p className="m-0 truncate text-xs text-soft">{says}</p>
            </li>
          );
        })}
      </ul>
      <Modal open={large !== undefined} onOpen={() => setShown(null)} title={large?.caption ?? ""} width="wide">
        {large && <img src={`/api/jobs/${job.id}/photos/${large.photo}`} alt={large.caption} className="mt-3 max-h-[75dvh] w-full object-contain" />}
        {me?.role === "foreman" && (
          <Button weight="quiet" onClick={() => setRemoving(true)}>
            {messages.removal.photo}
          </Button>
        )}
      </Modal>
      <RemoveDialog open={removing} onOpen={setRemoving} title={messages.removal.photoTitle} lead={messages.removal.photoLead} remove={remove} />
    </Block>
  );
}
