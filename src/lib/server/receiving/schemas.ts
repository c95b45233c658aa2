import { z } from 'zod';
import { circumstances, text, goingOn, rows, quantity, receivedMark } from '../kernel/fields.ts';

export const Receipt = z
  .strictObject({
    ...circumstances,
    supplier: text,
    ...goingOn,
    lines: rows(
      z.strictObject({
        product: text,
        place: text,
        quantity,
        unit: text.optional().meta({
          description:
            'Another unit of the product, such as pack; for the quantity of the line and of its marks'
        }),
        unitCost: quantity
          .optional()
          .meta({ description: 'Cost of one of the product’s own unit' }),
        marks: rows(receivedMark).optional()
      })
    ).min(1)
  })
  .meta({ id: 'Receipt' });

const unitCost = quantity
  .optional()
  .meta({ description: 'Cost of one of the product’s own unit; left out where it is not known' });

export const Opening = z
  .strictObject({
    ...circumstances,
    ...goingOn,
    lines: rows(
      z.strictObject({
        product: text,
        place: text,
        quantity,
        unit: text.optional(),
        unitCost,
        marks: rows(receivedMark.extend({ unitCost })).optional()
      })
    ).min(1)
  })
  .meta({ id: 'Opening' });
