export { NotFound as default } from "../features/settings/NotFound";
