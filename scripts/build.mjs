// npm run build: command line, server and web client.
import { buildAll } from "./lib/build.mjs";
import { main } from "./lib/say.mjs";

await main(buildAll);
