// What the bundle of the command line offers; who runs it (a command by itself, the standby) is outside.
export { answerTo } from "./answer";
