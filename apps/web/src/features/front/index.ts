export { FrontPage } from "./FrontPage";
export { InvitationPage } from "./InvitationPage";
