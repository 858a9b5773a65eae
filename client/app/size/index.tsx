export { GallonsScreen as default } from "../../features/plan/GallonsScreen";
