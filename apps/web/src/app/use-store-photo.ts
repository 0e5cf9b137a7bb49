import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { messages } from "../messages";
import { smallPicture } from "../ui/picture";
import { reasonOf, usePutPhotoMutation } from "./api";
import type { useEnter } from "./use-job";

const t = messages.intake;

/** Stores a picture as a photo of a job: made small on this device, entered with what it shows. */
export function useStorePhoto({ job, enter }: { readonly job: { readonly id: string }; readonly enter: ReturnType<typeof useEnter> }) {
  const [put, { isLoading }] = usePutPhotoMutation();
  const [problem, setProblem] = useState<string | null>(null);
  /** @returns the photo's id; null where it could not be stored, which `problem` says */
  const store = async (file: File, caption: string): Promise<string | null> => {
    setProblem(null);
    const picture = await smallPicture(file);
    if (picture === null) {
      setProblem(t.notAPicture(file.name));
      return null;
    }
    const photo = uuidv7();
    const answer = await put({ job: job.id, photo, content: picture.blob });
    if ("error" in answer) {
      setProblem(t.photoFailed(file.name, reasonOf(answer.error) ?? messages.states.failed));
      return null;
    }
    enter({ kind: "photo", body: { photo, caption: caption || file.name.replace(/\.\w+$/u, ""), width: picture.width, height: picture.height } });
    return photo;
  };
  return { store, problem, storing: isLoading };
}
