export { DrawerPage } from "./DrawerPage";
