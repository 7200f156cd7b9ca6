/** What server and screens tell each other about orders. */

/** What an order can be made of. */
export type ToOrder = {
  /** Lanes of candidates that have goods. */
  readonly candidates: readonly {
    readonly candidateId: string;
    readonly laneId: string;
    readonly name: string;
    readonly lane: string;
    readonly country: string;
    readonly suppliers: readonly string[];
    /** Sold units. */
    readonly units: number | null;
    /** The lane that was decided on for the launch. */
    readonly isPlanned: boolean;
    /** The one lane that stands for its candidate: the planned one, else its first. */
    readonly isFirst: boolean;
    /** It stands on an order already. */
    readonly isOrdered: boolean;
  }[];
  /** Shortlisted goods of suppliers' lists. */
  readonly goods: readonly {
    readonly key: number;
    readonly listId: string;
    readonly name: string;
    readonly list: string;
    readonly supplier: string;
  }[];
};
