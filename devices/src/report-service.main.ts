import { ReportService } from "./report-service";
import { standAlone } from "./stand-alone";

/** The supplier's report service as a process of its own: `node report-service.mjs [PORT]` prints its address. */
standAlone(new ReportService());
