export { LabScreen as default } from "../features/lab/LabScreen";
