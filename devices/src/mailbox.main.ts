import { Mailbox } from "./mailbox";
import { standAlone } from "./stand-alone";

/** A mail server that sends nothing on, as a process of its own: `node mailbox.mjs [PORT]` prints the address of its page. */
standAlone(new Mailbox());
