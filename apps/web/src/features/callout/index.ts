export { CalloutPage } from "./CalloutPage";
