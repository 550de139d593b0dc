/** What an OpenDocument presentation says it is, and the namespace of what only presentations have (ODF 1.2 Part 1, 1.3). */
export const ODP = 'application/vnd.oasis.opendocument.presentation';
export const PRESENTATION = 'urn:oasis:names:tc:opendocument:xmlns:presentation:1.0';

/** Centimetres in a unit of the slide: a slide is written 32 cm wide. */
export const CM = 0.002;
