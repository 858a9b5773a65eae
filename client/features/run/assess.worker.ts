import { expose } from "comlink";
import { assess } from "./assess";

const worker = { assess };
export type AssessWorker = typeof worker;

expose(worker);
