export { NewJobPage } from "./NewJobPage";
