export { SettingsPage } from "./SettingsPage";
