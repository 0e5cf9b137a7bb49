/** What browsers have and the simulated one leaves out; tests without a browser have them already. */
import { TextDecoder, TextEncoder } from "node:util";

if (globalThis.TextEncoder === undefined) Object.assign(globalThis, { TextDecoder, TextEncoder });
