import type { Element } from '../packed/xml.js';
import { el, elementsOf, ownText } from '../packed/xml.js';

/** A number format of ISO/IEC 29500-1, 18.8.31, in its parts. */
const NUMBER =
  /^(?<before>(?:[^0#,.;?[\]@%EyYmdhs]|"[^"]*"|\\.)*)(?<whole>[#0,]*[#0])(?:\.(?<decimals>0+))?(?<power>E\+0+)?(?<share>%)?(?<after>(?:[^0#,.;?[\]@%EyYmdhs]|"[^"]*"|\\.)*)$/;
const DAY_PARTS = /y+|m+|d+|h+|s+|AM\/PM|"[^"]*"|\\.|[^ymdhsA"\\]+/gi;

/** Text in a number format without what sets it off. */
function literal(told: string): string {
  return told.replace(/"([^"]*)"|\\(.)/g, (_, quoted?: string, one?: string) => quoted ?? one ?? '');
}

function quoted(text: string): string {
  return /^[-$ :/().+]*$/.test(text) ? text : `"${text.replaceAll('"', '')}"`;
}

const textPart = (text: string): Element | null => (text === '' ? null : el('number:text', {}, [text]));

/**
 * A number format as a style of OpenDocument (ODF 1.2 Part 1, 16.27); null for one that it cannot say, which has several sections, conditions or
 * fractions.
 */
export function numberStyle(name: string, format: string): Element | null {
  const named = { 'style:name': name };
  if (format === '@') return el('number:text-style', named, [el('number:text-content')]);
  const number = NUMBER.exec(format)?.groups;
  if (number) {
    const { before = '', whole = '', decimals = '', power, share, after = '' } = number;
    const told = {
      'number:decimal-places': decimals.length,
      'number:min-integer-digits': whole.replace(/[^0]/g, '').length,
      'number:grouping': whole.includes(',') ? 'true' : null,
    };
    const digits = power
      ? el('number:scientific-number', { ...told, 'number:min-exponent-digits': power.length - 2 })
      : el('number:number', told);
    const kind = share ? 'number:percentage-style' : 'number:number-style';
    return el(kind, named, [textPart(literal(before)), digits, textPart((share ?? '') + literal(after))]);
  }
  const parts = format.match(DAY_PARTS) ?? [];
  if (parts.join('') !== format || /[;[\]@#0?]/.test(format) || !/[ymdhs]/i.test(format)) return null;
  const isTime = !/[yd]/i.test(format) && /[hs]/i.test(format);
  let afterHours = false;
  const children = parts.map((part, i): Element | null => {
    const style = { 'number:style': part.length > 1 ? 'long' : null };
    const sign = part.charAt(0).toLowerCase();
    if (part === 'AM/PM') return el('number:am-pm');
    if (!/^[ymdhs]+$/i.test(part)) return textPart(literal(part));
    const isMinute =
      sign === 'm' &&
      (afterHours ||
        parts
          .slice(i + 1)
          .find((next) => /^[ymdhs]/i.test(next))
          ?.startsWith('s') === true);
    afterHours = sign === 'h';
    if (isMinute) return el('number:minutes', style);
    switch (sign) {
      case 'y':
        return el('number:year', { 'number:style': part.length > 2 ? 'long' : null });
      case 'm':
        return el('number:month', {
          'number:style': part.length % 2 === 0 ? 'long' : null,
          'number:textual': part.length > 2 ? 'true' : null,
        });
      case 'd':
        return part.length > 2
          ? el('number:day-of-week', { 'number:style': part.length > 3 ? 'long' : null })
          : el('number:day', style);
      case 'h':
        return el('number:hours', style);
      default:
        return el('number:seconds', style);
    }
  });
  return el(isTime ? 'number:time-style' : 'number:date-style', named, children);
}

/** The number format that a style of OpenDocument says; '' for general, null for one that has no such format. */
export function formatOf(style: Element): string | null {
  if (elementsOf(style, 'style:map').length > 0) return null;
  if (style.name === 'number:text-style') return '@';
  if (style.name === 'number:boolean-style') return '';
  const parts = elementsOf(style).filter(({ name }) => name.startsWith('number:'));
  const isLong = (part: Element): boolean => part.attributes['number:style'] === 'long';
  const told = parts.map((part): string | null => {
    switch (part.name) {
      case 'number:text':
        return ownText(part) === '%' && style.name === 'number:percentage-style'
          ? '%'
          : quoted(ownText(part));
      case 'number:currency-symbol':
        return quoted(ownText(part));
      case 'number:number':
      case 'number:scientific-number':
        return digitsOf(part);
      case 'number:year':
        return isLong(part) ? 'yyyy' : 'yy';
      case 'number:month':
        return part.attributes['number:textual'] === 'true'
          ? isLong(part)
            ? 'mmmm'
            : 'mmm'
          : isLong(part)
            ? 'mm'
            : 'm';
      case 'number:day':
        return isLong(part) ? 'dd' : 'd';
      case 'number:day-of-week':
        return isLong(part) ? 'dddd' : 'ddd';
      case 'number:hours':
        return isLong(part) ? 'hh' : 'h';
      case 'number:minutes':
        return isLong(part) ? 'mm' : 'm';
      case 'number:seconds':
        return isLong(part) ? 'ss' : 's';
      case 'number:am-pm':
        return 'AM/PM';
      default:
        return null;
    }
  });
  if (told.includes(null)) return null;
  const format = told.join('');
  return format === 'General' ? '' : format;
}

function digitsOf({ name, attributes }: Element): string {
  const decimals = attributes['number:decimal-places'];
  const whole = Math.min(20, Number(attributes['number:min-integer-digits'] ?? 1));
  // Without places it is as many as are needed.
  if (decimals === undefined && name === 'number:number' && attributes['number:grouping'] !== 'true')
    return 'General';
  const zeros = '0'.repeat(Math.max(whole, 1));
  const grouped =
    attributes['number:grouping'] === 'true'
      ? whole > 3
        ? zeros
        : `#,${'##0'.slice(0, 3 - Math.max(whole, 1))}${zeros}`
      : zeros;
  const places = Math.min(20, Number(decimals ?? 0));
  const fraction = places > 0 ? `.${'0'.repeat(places)}` : '';
  const power = Math.min(5, Number(attributes['number:min-exponent-digits'] ?? 2));
  return grouped + fraction + (name === 'number:scientific-number' ? `E+${'0'.repeat(power)}` : '');
}
