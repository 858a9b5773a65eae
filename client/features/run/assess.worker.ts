import { expose } from "comlink";
import { assess } from "./assess";

const service = { assess };
export type AssessService = typeof service;

expose(service);
