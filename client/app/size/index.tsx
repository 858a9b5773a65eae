import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Size", async () => (await import("../../features/plan/GallonsScreen")).GallonsScreen, SIZE_NEEDS);
