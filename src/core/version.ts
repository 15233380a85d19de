/** Of Bijou, as in package.json. */
export const BIJOU_VERSION = '0.1.0';
