import type { RecordKind } from "@winter-bead/contract";
export interface DemoEntry { readonly kind: RecordKind; readonly id: string; readonly body: object }
export function demoScenario(_now: Date): readonly DemoEntry[] { return []; }
