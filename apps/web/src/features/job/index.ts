export { JobPage } from "./JobPage";
