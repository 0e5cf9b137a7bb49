import { type KeptParts, META } from "./kept-parts";

/** How the sending of captures stands: parts that still wait, and the last refusal in words. */
export interface Sending {
  readonly left: number;
  readonly refused: string | null;
}

/**
 * Sends what waits of captures, one part after the other; what is there stays there, so that a broken connection costs one part at most.
 *
 * @param send the browser's `fetch`, or a test's
 * @returns what is left: parts that no connection took, and why the server refused one for good
 */
export async function sendKept(kept: KeptParts, send: typeof fetch, onSent?: (left: number) => void): Promise<Sending> {
  const waiting = await kept.waiting();
  let left = waiting.length;
  let refused: string | null = null;
  for (const { job, capture, part } of waiting) {
    const content = await kept.get(job, capture, part);
    if (content === null) continue;
    const meta = part === META;
    const address = `/api/jobs/${job}/captures/${capture}${meta ? "" : `/parts/${part}`}`;
    let answer: Response;
    try {
      const type = meta ? "application/json" : "application/octet-stream";
      answer = await send(address, { method: "PUT", body: content, headers: { "content-type": type }, credentials: "same-origin" });
    } catch {
      return { left, refused };
    }
    // Signed out, or the server is busy: later. Anything else that is refused is refused for good.
    if (answer.status === 401 || answer.status >= 500) return { left, refused };
    if (!answer.ok) refused = ((await answer.json().catch(() => null)) as { message?: string } | null)?.message ?? String(answer.status);
    await kept.remove({ job, capture, part });
    left -= 1;
    onSent?.(left);
  }
  return { left, refused };
}
