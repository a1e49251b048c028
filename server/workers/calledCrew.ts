import type { Redis } from 'ioredis';
import { codeVersion } from './codeVersion.ts';
import type { Ability, CrewNames } from './crewNames.ts';
import { calledRoll, sayServer, unfitReason, type Asked, type RollEntry } from './roll.ts';
import type { Seal } from './seal.ts';

/** A worker with why it is given nothing, or null. */
export type CrewMember = RollEntry & { readonly unfit: string | null };

/** The workers that are there, as a server knows them since it called them last. */
export class CalledCrew {
  private roll: readonly RollEntry[] = [];

  /** @param asked what workers have to reach */
  constructor(
    private readonly redis: Redis,
    private readonly names: CrewNames,
    private readonly seal: Seal,
    private readonly asked: Asked,
  ) {}

  /** Says what this server asks of workers, and learns which are there. */
  async call(): Promise<void> {
    await sayServer(this.redis, this.names, this.seal, this.own);
    this.roll = await calledRoll(this.redis, this.names, this.seal);
  }

  /** Nothing is known of any while Redis does not answer. */
  isAway(): void {
    this.roll = [];
  }

  members(): CrewMember[] {
    return this.roll.map((worker) => ({ ...worker, unfit: unfitReason(worker, this.own) }));
  }

  /** Those that are given passes which need this. */
  fit(needs: readonly Ability[]): readonly RollEntry[] {
    return this.members().filter(
      ({ unfit, abilities }) => unfit === null && needs.every((need) => abilities.includes(need)),
    );
  }

  private get own() {
    return { version: codeVersion(), ...this.asked };
  }
}
