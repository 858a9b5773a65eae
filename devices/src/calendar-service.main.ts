import { CalendarService } from "./calendar-service";
import { standAlone } from "./stand-alone";

/** A calendar that somebody else keeps, as a process of its own: `node calendar-service.mjs [PORT]` prints its address. */
standAlone(new CalendarService());
