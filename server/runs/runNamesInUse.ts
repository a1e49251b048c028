import { basename, dirname } from 'node:path';
import pLimit from 'p-limit';
import { plannedNames } from '#core/delivery/conflicts';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { Briefly } from '../storage/briefly.ts';
import { withinTime } from '../storage/withinTime.ts';
import type { ItemEnd } from './exportParts.ts';
import { RunKnowledge } from './placeOutput.ts';
import { deliveryOf, foldersOf, outputPlace } from './runNames.ts';

const LOOKS_AT_ONCE = 16;
/** What one look at a source may take; one that does not answer is known by its path alone. */
const LOOK_MS = 5_000;

/** A folder that was open counts as open for this long: many photos may come at once. */
const OPEN_MS = 200;

/** The names of one run: those its outputs have, those they will have, and those that are sources. */
export class RunNames {
  /** Looks at the folders that it writes to, by their paths. */
  readonly folders = new Briefly<ItemEnd | null>(OPEN_MS, (end) => end === null);
  private known: Promise<RunKnowledge> | null = null;
  private planned: Map<number, string> | null = null;

  constructor(
    private readonly run: RunRow,
    private readonly tables: Tables,
  ) {}

  /** All sources are looked at when it is first asked for, which is when the run begins or goes on. */
  knowledge(): Promise<RunKnowledge> {
    this.known ??= this.gather();
    return this.known;
  }

  /** The sources are looked at anew when the run goes on after a pause. */
  forgetSources(): void {
    this.known = null;
  }

  /** Photos came to the run: their names are worked out with the others', and they are sources. */
  grew(sources: readonly string[]): void {
    this.planned = null;
    if (!this.known) return;
    this.known = this.known.then(async (knowledge) => {
      for (const path of sources) await lookAt(path, knowledge);
      this.claimPlanned(knowledge);
      return knowledge;
    });
    // Whoever asks for a name is told; until then nobody listens.
    this.known.catch(() => undefined);
  }

  /** Only where files are replaced: the same photo then replaces the same file each time. */
  plannedName(itemId: number): string | undefined {
    this.planned ??= this.plan();
    return this.planned.get(itemId);
  }

  private get replaces(): boolean {
    return this.run.deliveries.some(({ rule }) => rule.existing === 'replace');
  }

  /** Folder by folder, since several deliveries may go into one. */
  private plan(): Map<number, string> {
    const { run, tables } = this;
    const names = new Map<number, string>();
    if (!this.replaces) return names;
    const items = tables.items.ofRun(run.id);
    for (const folder of foldersOf(run)) {
      const replacing = items.filter((item) => {
        const delivery = deliveryOf(run, item);
        const { kind, existing } = delivery.rule;
        return delivery.folder === folder && kind === 'files' && existing === 'replace';
      });
      const planned = plannedNames(replacing.map((item) => outputPlace(run, item)));
      for (const [index, { id }] of replacing.entries()) names.set(id, planned[index]);
    }
    return names;
  }

  private async gather(): Promise<RunKnowledge> {
    const { tables, run } = this;
    const knowledge = new RunKnowledge();
    for (const { device, inode } of tables.photos.identities()) {
      knowledge.sources.addIdentity(device, inode);
    }
    for (const { output } of tables.items.outputs(run.id)) {
      knowledge.claim(dirname(output), basename(output));
    }
    for (const { status, output } of tables.documents.ofRun(run.id)) {
      if (status === 'written' && output) knowledge.claim(dirname(output), basename(output));
    }
    this.claimPlanned(knowledge);
    const paths = new Set([...tables.photos.allPaths(), ...tables.items.allSources()]);
    const limit = pLimit(LOOKS_AT_ONCE);
    await Promise.all([...paths].map((path) => limit(() => lookAt(path, knowledge))));
    return knowledge;
  }

  /** Another delivery into the same folder must not take a name that is going to be replaced. */
  private claimPlanned(knowledge: RunKnowledge): void {
    const { tables, run } = this;
    if (!this.replaces) return;
    for (const item of tables.items.ofRun(run.id)) {
      const planned = this.plannedName(item.id);
      if (planned !== undefined) knowledge.claim(deliveryOf(run, item).folder, planned);
    }
  }
}

async function lookAt(path: string, { sources }: RunKnowledge): Promise<void> {
  await withinTime(LOOK_MS, path, () => sources.add(path)).catch(() => sources.addPath(path));
}
