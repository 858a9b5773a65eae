import { expose } from "comlink";
import { assess, assessAll } from "./assess";

const worker = { assess, assessAll };
export type AssessWorker = typeof worker;

expose(worker);
