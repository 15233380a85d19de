/**
 * Raised whenever a step, the resampler or the dither gives other samples than before: what was built with
 * the older ones is out of date then, and is built anew.
 */
export const PROCESSING_VERSION = 'steps 1, resampler 2, dither 2';
