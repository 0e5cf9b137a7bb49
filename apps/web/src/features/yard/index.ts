export { YardPage } from "./YardPage";
