import { basename } from 'node:path';
import type { DeliveryPlanView } from '#core/contract/http';
import { fileName, nameKey } from '#core/delivery/conflicts';
import { estimatedBytes } from '#core/delivery/estimatedBytes';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import { success, type Result } from '#core/result';
import { preparation } from '#core/sheet/photoOnSheet';
import { photosASheet, planSheet, roomAround, sheetCount } from '#core/sheet/planSheets';
import type { PhotoRow } from '../db/photos.ts';
import type { NewItem } from '../db/runItemRows.ts';
import type { NewRun } from '../db/runs.ts';
import { ruleOfPhoto, type OutputRule } from './outputRule.ts';
import { outputPlace } from './runNames.ts';
import { documentName } from './sheetJob.ts';

const EXAMPLES = 3;

/** What a run would do for one of its deliveries. */
export function deliveryPlan(
  run: NewRun,
  number: number,
  photos: readonly PhotoRow[],
  items: readonly NewItem[],
  /** Names in the folder, as they are compared. */
  taken: ReadonlySet<string>,
): Omit<DeliveryPlanView, 'preset'> {
  const { deliveryId, name, rule, folder } = run.deliveries[number - 1];
  const own = items.filter(({ delivery }) => delivery === number);
  const names = rule.kind === 'files' ? photoNames(run, own) : documentNames(run, number, own);
  const { depth } = TYPE_FACTS[rule.file.type];
  const bytes = own.map((item, at) => {
    const ruled = plannedRule(run, item, own[0]);
    const resize = ruled.ok ? ruled.value.rule.resize : null;
    return estimatedBytes(resizeFrame(item, resize), rule.file, photos[at]);
  });
  return {
    ...{ deliveryId: deliveryId ?? 0, name, folder, files: names.length },
    examples: names.slice(0, EXAMPLES).map((example) => basename(example)),
    sameNames: names.length - new Set(names.map(nameKey)).size,
    existing: names.filter((one) => taken.has(nameKey(one))).length,
    estimatedBytes: bytes.reduce((sum, some) => sum + some, 0),
    reducedBits: photos.filter(({ bits }) => bits > depth).length,
    paper: rule.kind === 'sheet' ? paperOf(run, number, own) : null,
  };
}

function photoNames(run: NewRun, own: readonly NewItem[]): string[] {
  return own.map((item) => {
    const { base, extension } = outputPlace(run, item);
    return `${base}.${extension}`;
  });
}

function documentNames(run: NewRun, number: number, own: readonly NewItem[]): string[] {
  const { rule } = run.deliveries[number - 1];
  const isMany = rule.kind === 'sheet' && rule.sheet.as !== 'pdf';
  const count = sheetCount(rule.sheet, own.length);
  const sheets = isMany ? Array.from({ length: count }, (_, at) => at + 1) : [0];
  return sheets.map((sheet) => {
    const { base, extension } = documentName(run, number, sheet, count);
    return fileName(base, extension);
  });
}

/** How a photo would be rendered, before there is a run. @param first of the same delivery */
export function plannedRule(
  run: NewRun,
  item: Pick<NewItem, 'delivery' | 'number' | 'width' | 'height'>,
  first: Pick<NewItem, 'width' | 'height'>,
): Result<OutputRule> {
  const { rule } = run.deliveries[item.delivery - 1];
  if (rule.kind !== 'sheet') return success({ rule: ruleOfPhoto(rule) });
  // Of a grid that lies as its first photo does, any sheet stands for all here.
  const leader = photosASheet(rule.sheet) === 1 ? item : first;
  return preparation(rule, sizeOf(item), item.number - 1, sizeOf(leader));
}

function paperOf(run: NewRun, number: number, own: readonly NewItem[]): DeliveryPlanView['paper'] {
  const { rule } = run.deliveries[number - 1];
  const sheet = planSheet(rule.sheet, own.slice(0, 1).map(sizeOf));
  if (!sheet.ok) return null;
  const { size } = sheet.value;
  const room = roomAround(rule.sheet);
  return { sheets: sheetCount(rule.sheet, own.length), ...size, room };
}

function sizeOf({ width, height }: Pick<NewItem, 'width' | 'height'>) {
  return { width, height };
}
