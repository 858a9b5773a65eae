import { lazyPlace } from "../../ui/lazy-place";

export default lazyPlace(async () => (await import("../../features/vessels/places")).TapPlace);
