import { createContext } from "react";

/** Whether numbers are typed on the place's own pad: then the system's keyboard stays away. */
export const OwnPad = createContext(false);
