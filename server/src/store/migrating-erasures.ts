import { QueryTypes } from 'sequelize';
import type { QueryInterface } from 'sequelize';

/** Of erasures that wait for a second owner, the present owners are those who may agree. */
export async function ownersWhenAsked({ sequelize }: QueryInterface): Promise<void> {
  const rows = await sequelize.query<{ key: number; person: number }>(
    `SELECT erasures.key, ownership.person FROM erasures JOIN ownership ON ownership.document = erasures.document
     WHERE erasures.state = 'asked' AND ownership.person <> erasures.by`,
    { type: QueryTypes.SELECT },
  );
  for (const key of new Set(rows.map((row) => row.key))) {
    const owners = rows.flatMap((row) => (row.key === key ? [row.person] : []));
    await sequelize.query('UPDATE erasures SET owners = :owners WHERE key = :key', {
      replacements: { key, owners: JSON.stringify(owners) },
    });
  }
}

/** Counts of certificates become those of the document in which the erasure was begun. */
export async function countsByDocument({ sequelize }: QueryInterface): Promise<void> {
  const rows = await sequelize.query<{ key: number; document: number; told: string }>(
    `SELECT key, document, told FROM erasures WHERE told <> '{}'`,
    { type: QueryTypes.SELECT },
  );
  for (const { key, document, told } of rows) {
    const before = JSON.parse(told) as {
      places?: readonly { place: string; times: number }[];
      checked?: { rows: number };
    };
    const next = {
      ...before,
      places: (before.places ?? []).map((one) => ({
        ...one,
        document: one.place === 'message' ? 0 : document,
      })),
      ...(before.checked
        ? { checked: { ...before.checked, rows: [{ document, times: before.checked.rows }] } }
        : {}),
    };
    await sequelize.query('UPDATE erasures SET told = :told WHERE key = :key', {
      replacements: { key, told: JSON.stringify(next) },
    });
  }
}
