import type { EvidenceMap } from '../../../core/evidence/fileMap.ts';

/** What a file says, before it is kept: its first rows, which column says what, and what is wrong with it. */
export type FileLook = {
  kept: boolean;
  sheets: string[];
  header: string[];
  rows: string[][];
  map: EvidenceMap;
  good: number;
  stops: string[];
  faults: { row: number; column: string; message: string }[];
  faultCount: number;
  asOf: string | null;
};
