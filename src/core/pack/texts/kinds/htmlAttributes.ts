import type { Token } from 'parse5';
import type { Standing } from '../standIns';
import { inMarkup } from './xml';

/** Attributes that hold an address (HTML, index of attributes). */
const ADDRESSES = new Set(
  'action background cite data formaction href icon longdesc manifest poster profile src usemap xlink:href'.split(
    ' ',
  ),
);
/** … and those whose value is read as something else again: code, styles, pages, lists of addresses. */
const READ_AGAIN = new Set('style srcdoc srcset imagesrcset ping'.split(' '));
/** What begins with a scheme. */
const SCHEME = /^[^/?#]*:/;
/** Addresses that only lead somewhere. */
const LEADING = /^(?:https?|mailto|tel):/i;

type AttributeStanding = Omit<Standing, 'word'>;

/**
 * What is to be thought of a value in an attribute.
 * @param around What of the attribute's value stands in front of it, and behind.
 * @param written The whole attribute as it stands in the text.
 */
export function attributeStanding(
  { attrs }: Token.TagToken,
  name: string,
  around: { before: string; after: string },
  written: string,
): AttributeStanding {
  if (!/["']$/.test(written)) return refused('a blank in it would end it', QUOTE);
  if (name.startsWith('on')) {
    return refused(`${name} holds code, where values are not escaped`, DATA);
  }
  const isRefresh = name === 'content' && attrs.some((one) => one.name === 'http-equiv');
  if (READ_AGAIN.has(name) || isRefresh) {
    return refused(`what stands in ${name} is read as something else again`, DATA);
  }
  return ADDRESSES.has(name) ? inAddressOf(around) : { problem: null };
}

/** Behind the first slash, question mark or hash nothing is a scheme any more. */
function inAddressOf({ before, after }: { before: string; after: string }): AttributeStanding {
  if (SCHEME.test(before)) {
    return LEADING.test(before.trim()) ? { problem: null } : refused(SCHEMES, PATH);
  }
  if (/[/?#]/.test(before)) return { problem: null };
  return SCHEME.test(after) ? refused(SCHEMES, PATH) : { problem: null, escaped: inAddress };
}

/** An address that leads somewhere stays one; no other scheme does anything. */
function inAddress(value: string): string {
  const plain = value.replace(/[\t\n\r]/g, '').trim();
  const colon = plain.search(/[:/?#]/);
  const isScheme = plain[colon] === ':' && !LEADING.test(plain);
  return inMarkup(isScheme ? plain.replaceAll(':', '%3A') : plain);
}

const SCHEMES = 'an address of such a kind can do more than lead somewhere';
const PATH = 'Write an address that begins with a path, or with https.';
const QUOTE = 'Write quotation marks around it.';
const DATA = 'Put it into an attribute such as data-title="…", and read it from there.';

function refused(message: string, cure: string): AttributeStanding {
  return { problem: { message, cure } };
}
