export { FrontPage } from "./FrontPage";
export { InvitationPage } from "./InvitationPage";
export { NewPasswordPage } from "./NewPasswordPage";
