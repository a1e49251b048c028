/** Workers of this and other machines, as they are told of. */

export interface WorkersView {
  /** Whether the Redis between server and workers answers. */
  readonly isConnected: boolean;
  /** Names of the folders that workers have to reach. */
  readonly roots: readonly string[];
  /** The store of objects that workers have to reach besides, `s3://bucket/prefix/`; or null. */
  readonly store: string | null;
  /** Why it takes no photos, or null. */
  readonly storeProblem: string | null;
  readonly workers: readonly WorkerView[];
}

export interface WorkerView {
  readonly name: string;
  /** Of its machine. */
  readonly host: string;
  /** Photos it makes at once. */
  readonly jobs: number;
  /** Photos it is at. */
  readonly doing: readonly string[];
  /** Outputs since it started. */
  readonly made: number;
  /** Of the last minute. */
  readonly photosAMinute: number;
  /** What keeps it from working, or null. */
  readonly problem: string | null;
  /** What it leaves to others: `heic`, `untouched`. */
  readonly cannot: readonly string[];
}
