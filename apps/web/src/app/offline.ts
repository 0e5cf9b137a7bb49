const LATEST = "fox-lamp-latest";

/** Lets the page open without the server: its files are kept by the browser, and the last answers about jobs with them. */
export function keepForOffline(): void {
  if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
  window.addEventListener("load", () => {
    navigator.serviceWorker.register("/sw.js").catch(() => undefined);
  });
}

/** Forgets the answers that were kept: the next person on this device is somebody else. */
export async function forgetAnswers(): Promise<void> {
  if ("caches" in window) await caches.delete(LATEST);
}
