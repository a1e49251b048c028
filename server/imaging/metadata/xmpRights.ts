import type { Rights } from './rights.ts';

/**
 * Rights in an XMP packet (ISO 16684-1): dc:creator, dc:rights, xmpRights:UsageTerms,
 * xmpRights:WebStatement, xmpRights:Marked. What the packet says of those that are given is taken out,
 * under whatever prefix, and said anew in a description of its own.
 */

const DC = 'http://purl.org/dc/elements/1.1/';
const RIGHTS = 'http://ns.adobe.com/xap/1.0/rights/';
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';

/** @param packet or null for a new one */
export function withXmpRights(packet: string | null, rights: Rights): string | null {
  const properties = propertiesOf(rights);
  if (properties.length === 0) return packet;
  const description =
    `<rdf:Description xmlns:rdf="${RDF}" rdf:about="" xmlns:dc="${DC}" xmlns:xmpRights="${RIGHTS}">` +
    `${properties.map(({ xml }) => xml).join('')}</rdf:Description>`;
  const end = packet === null ? null : /<\/[\w.-]+:RDF\s*>/.exec(packet);
  if (packet === null || !end) return newPacket(description);
  const at = packet.lastIndexOf(end[0]);
  const before = properties.reduce(
    (text, { namespace, name }) => without(text, namespace, name),
    packet.slice(0, at),
  );
  return before + description + packet.slice(at);
}

interface Property {
  readonly namespace: string;
  readonly name: string;
  readonly xml: string;
}

function propertiesOf({ artist, copyright, usage, rightsUrl }: Rights): Property[] {
  const properties: Property[] = [];
  const add = (namespace: string, name: string, prefix: string, inner: string): void => {
    const xml = `<${prefix}:${name}>${inner}</${prefix}:${name}>`;
    properties.push({ namespace, name, xml });
  };
  if (artist !== null) {
    add(DC, 'creator', 'dc', `<rdf:Seq><rdf:li>${escaped(artist)}</rdf:li></rdf:Seq>`);
  }
  if (copyright !== null) {
    add(DC, 'rights', 'dc', inAnyLanguage(copyright));
    add(RIGHTS, 'Marked', 'xmpRights', 'True');
  }
  if (usage !== null) add(RIGHTS, 'UsageTerms', 'xmpRights', inAnyLanguage(usage));
  if (rightsUrl !== null) add(RIGHTS, 'WebStatement', 'xmpRights', escaped(rightsUrl));
  return properties;
}

function inAnyLanguage(text: string): string {
  return `<rdf:Alt><rdf:li xml:lang="x-default">${escaped(text)}</rdf:li></rdf:Alt>`;
}

/** Without a property, written as an element or as an attribute, under each prefix of its namespace. */
function without(packet: string, namespace: string, name: string): string {
  const declared = packet.matchAll(/xmlns:([\w.-]+)\s*=\s*["']([^"']*)["']/g);
  const prefixes = new Set([...declared].filter(([, , uri]) => uri === namespace).map((m) => m[1]));
  let text = packet;
  for (const prefix of prefixes) {
    const tag = `${prefix.replace(/[.-]/g, '\\$&')}:${name}`;
    const element = new RegExp(`<${tag}(?:\\s[^>]*)?(?:/>|>[\\s\\S]*?</${tag}\\s*>)`, 'g');
    const attribute = new RegExp(`\\s${tag}\\s*=\\s*("[^"]*"|'[^']*')`, 'g');
    text = text.replace(element, '').replace(attribute, '');
  }
  return text;
}

function newPacket(description: string): string {
  return (
    '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>' +
    `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}">${description}</rdf:RDF>` +
    '</x:xmpmeta><?xpacket end="w"?>'
  );
}

const ENTITIES: Readonly<Record<string, string>> = {
  ...{ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' },
};

/** Control characters have no place in XML 1.0. */
function escaped(text: string): string {
  // eslint-disable-next-line no-control-regex -- they are what is taken out
  const clean = text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');
  return clean.replace(/[&<>"]/g, (letter) => ENTITIES[letter]);
}
