import { RACK_NEEDS } from "../data/needs";
import { RackScreen } from "../features/rack/RackScreen";
import { placeHere } from "../ui/place";

export default placeHere("The rack", RackScreen, RACK_NEEDS);
