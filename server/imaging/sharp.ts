import sharp from 'sharp';

/**
 * The one place where sharp is set up. One thread a pipeline and several pipelines at once export
 * faster than the reverse; its cache would only hold photos that are read once.
 *
 * Loaders are refused by default: a file is read as what the loaders below make of its bytes, so an
 * SVG, PDF or anything else under the name of a photo is never opened by a renderer.
 */
sharp.cache(false);
sharp.concurrency(1);
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({
  operation: [
    'VipsForeignLoadJpeg',
    'VipsForeignLoadPng',
    'VipsForeignLoadWebp',
    'VipsForeignLoadTiff',
    'VipsForeignLoadHeif',
  ],
});

export { sharp };
