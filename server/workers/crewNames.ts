/** What server and workers of one token call things in their Redis. */

/** What not every machine can do: photos in HEIC, and JPEGs that stay as they are but for their mark. */
export const ABILITIES = ['heic', 'untouched'] as const;
export type Ability = (typeof ABILITIES)[number];

export interface CrewNames {
  /** Before all keys of the queues. */
  readonly prefix: string;
  readonly content: (hash: string) => string;
  /** Says that a pass is not to be made any more. */
  readonly cancelled: (id: string) => string;
  readonly server: string;
  readonly roll: string;
  readonly worker: (name: string) => string;
}

/** @param seal the name of the token */
export function crewNames(seal: string): CrewNames {
  const prefix = `light-crest-${seal}`;
  return {
    prefix,
    content: (hash) => `${prefix}:content:${hash}`,
    cancelled: (id) => `${prefix}:cancelled:${id}`,
    server: `${prefix}:server`,
    roll: `${prefix}:roll`,
    worker: (name) => `${prefix}:worker:${name}`,
  };
}

/** The queue of passes that need these abilities of whoever makes them. */
export function queueName(needs: readonly Ability[]): string {
  return ['passes', ...[...needs].sort()].join('-');
}

/** All queues from which one with these abilities may take. Those that ask for most come first. */
export function queuesFor(abilities: readonly Ability[]): string[] {
  const sets = abilities.reduce<Ability[][]>(
    (all, ability) => [...all, ...all.map((set) => [...set, ability])],
    [[]],
  );
  return sets.sort((a, b) => b.length - a.length).map(queueName);
}
