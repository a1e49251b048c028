import { Router, type Request } from 'express';
import {
  favouriteBody,
  presetBody,
  presetOrderBody,
  versionParams,
  type EarlierPreset,
  type EarlierVersion,
  type PresetView,
} from '#core/contract/http';
import { PRESET_FORMAT, presetRuleSchema, type PresetFile } from '#core/contract/preset';
import { safeName } from '#core/delivery/namePattern';
import type { EarlierRow } from '../db/earlierVersions.ts';
import type { PresetRow } from '../db/presets.ts';
import { conflict, notFound, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { validated } from '../http/validated.ts';
import { idOf, type RouteParts } from './parts.ts';

export function presetRoutes({ tables, versions }: RouteParts): Router {
  const router = Router();

  const presetOf = (id: number): PresetRow => {
    const preset = tables.presets.get(id);
    if (!preset) throw notFound('That preset');
    return preset;
  };
  const view = (row: PresetRow): PresetView => ({
    ...row,
    usedBy: tables.deliveries.namesUsingPreset(row.id),
  });
  const requireMark = (markId: number): void => {
    if (!tables.marks.get(markId)) throw unusable('The mark of this preset is not there any more.');
  };

  /** What it said before is kept. */
  const changed = (request: Request, preset: PresetRow, fields: EarlierPreset): PresetView => {
    const { id, name, markId, rule, version, updatedAt } = preset;
    const value: EarlierPreset = { name, markId, rule };
    tables.together(() => {
      tables.earlier.keep('preset', id, {
        version,
        madeAt: updatedAt,
        value: JSON.stringify(value),
      });
      tables.presets.update(id, fields.name, fields.markId, fields.rule);
    });
    const now = presetOf(id);
    versions.note(request, { what: 'presets', ...now });
    return view(now);
  };

  router.get('/presets', (_request, response) => {
    response.json(tables.presets.all().map(view));
  });

  router.post('/presets', (request, response) => {
    const { name, markId, rule } = validated(presetBody, request.body);
    requireMark(markId);
    sendMade(response, tables, () => view(presetOf(tables.presets.insert(name, markId, rule))));
  });

  router.put('/presets/:id', (request, response) => {
    const preset = presetOf(idOf(request));
    const { name, markId, rule, baseVersion } = validated(presetBody, request.body);
    versions.check(request, { what: 'presets', ...preset }, baseVersion);
    requireMark(markId);
    response.json(changed(request, preset, { name, markId, rule }));
  });

  router.get('/presets/:id/versions', (request, response) => {
    response.json(tables.earlier.of('preset', presetOf(idOf(request)).id).map(earlierPreset));
  });

  router.post('/presets/:id/versions/:version', (request, response) => {
    const { id, version } = validated(versionParams, request.params);
    const preset = presetOf(id);
    const before = tables.earlier.of('preset', id).find((row) => row.version === version);
    if (!before) throw unusable('That version is not kept any more.');
    const { value } = earlierPreset(before);
    requireMark(value.markId);
    response.json(changed(request, preset, value));
  });

  router.put('/presets-order', (request, response) => {
    tables.presets.order(validated(presetOrderBody, request.body).ids);
    response.json(tables.presets.all().map(view));
  });

  router.patch('/presets/:id', (request, response) => {
    const { id } = presetOf(idOf(request));
    tables.presets.favour(id, validated(favouriteBody, request.body).favourite);
    response.json(view(presetOf(id)));
  });

  /** The rule as a file to take elsewhere; it names no mark, so it goes with any. */
  router.get('/presets/:id/file', (request, response) => {
    const { name, rule } = presetOf(idOf(request));
    const file: PresetFile = { ...PRESET_FORMAT, name, ...rule };
    response.attachment(`${safeName(name)}.preset.json`);
    response.type('json').send(`${JSON.stringify(file, null, 2)}\n`);
  });

  router.delete('/presets/:id', (request, response) => {
    const preset = presetOf(idOf(request));
    const users = tables.deliveries.namesUsingPreset(preset.id);
    if (users.length > 0) {
      throw conflict(
        `${preset.name} is used by the delivery ${users.join(', ')}. Give that another preset first.`,
      );
    }
    const [batch] = tables.runs.underWayWith('preset', preset.id);
    if (batch !== undefined) {
      throw conflict(
        `A run of ${batch} still goes by ${preset.name}. Wait for its end, or cancel it first.`,
      );
    }
    const [inbox] = tables.inboxes.namesUsing('preset', preset.id);
    if (inbox !== undefined) {
      throw conflict(`The watched folder ${inbox} has ${preset.name}. Give it another first.`);
    }
    tables.bin.put('presets', preset.id);
    response.status(204).end();
  });

  return router;
}

/** Parsed by the schema, so that a field added later has its default in old ones. */
function earlierPreset({ version, madeAt, value }: EarlierRow): EarlierVersion<EarlierPreset> {
  const { name, markId, rule } = JSON.parse(value) as EarlierPreset;
  return { version, madeAt, value: { name, markId, rule: presetRuleSchema.parse(rule) } };
}
