/** What browsers have and the simulated one leaves out; tests without a browser have them already. */
import { TextDecoder, TextEncoder } from "node:util";

if (globalThis.TextEncoder === undefined) Object.assign(globalThis, { TextDecoder, TextEncoder });
if (typeof Element !== "undefined") {
  Element.prototype.scrollIntoView ??= () => undefined;
  Element.prototype.hasPointerCapture ??= () => false;
  globalThis.ResizeObserver ??= class {
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
  globalThis.matchMedia ??= ((query: string) => ({
    matches: false,
    media: query,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  })) as never;
}
