/**
 * All application identifiers and the form of their data.
 * Source: GS1 General Specifications, figure 3.2-1, quoted from memory; what the reference library
 * gs1-barcode-parser-mod knows is compared with it in gs1.test.ts. `n6` is six digits, `n..8` up to
 * eight, `x..20` up to twenty characters; parts are joined by `+`, and `?` marks one that may be
 * left out. A range such as `3100-3105` names every code in it; the last digit of a measure is its
 * decimals.
 */
const TABLE: readonly (readonly [codes: string, form: string])[] = [
  ['00', 'n18'],
  ['01-03', 'n14'],
  ['10', 'x..20'],
  ['11-13 15-17', 'n6'],
  ['20', 'n2'],
  ['21-22', 'x..20'],
  ['235', 'x..28'],
  ['240-241', 'x..30'],
  ['242', 'n..6'],
  ['243', 'x..20'],
  ['250-251', 'x..30'],
  ['253', 'n13+x..17?'],
  ['254', 'x..20'],
  ['255', 'n13+n..12?'],
  ['30', 'n..8'],
  ['3100-3105 3110-3115 3120-3125 3130-3135 3140-3145 3150-3155 3160-3165', 'n6'],
  ['3200-3205 3210-3215 3220-3225 3230-3235 3240-3245 3250-3255 3260-3265 3270-3275', 'n6'],
  ['3280-3285 3290-3295 3300-3305 3310-3315 3320-3325 3330-3335 3340-3345 3350-3355', 'n6'],
  ['3360-3365 3370-3375 3400-3405 3410-3415 3420-3425 3430-3435 3440-3445 3450-3455', 'n6'],
  ['3460-3465 3470-3475 3480-3485 3490-3495 3500-3505 3510-3515 3520-3525 3530-3535', 'n6'],
  ['3540-3545 3550-3555 3560-3565 3570-3575 3600-3605 3610-3615 3620-3625 3630-3635', 'n6'],
  ['3640-3645 3650-3655 3660-3665 3670-3675 3680-3685 3690-3695', 'n6'],
  ['37', 'n..8'],
  ['3900-3909', 'n..15'],
  ['3910-3919', 'n3+n..15'],
  ['3920-3929', 'n..15'],
  ['3930-3939', 'n3+n..15'],
  ['3940-3943', 'n4'],
  ['3950-3955', 'n6'],
  ['400-401', 'x..30'],
  ['402', 'n17'],
  ['403', 'x..30'],
  ['410-417', 'n13'],
  ['420', 'x..20'],
  ['421', 'n3+x..9'],
  ['422', 'n3'],
  ['423', 'n3+n..12'],
  ['424', 'n3'],
  ['425', 'n3+n..12'],
  ['426', 'n3'],
  ['427', 'x..3'],
  ['4300-4301', 'x..35'],
  ['4302-4306', 'x..70'],
  ['4307', 'x2'],
  ['4308', 'x..30'],
  ['4309', 'n20'],
  ['4310-4311', 'x..35'],
  ['4312-4316', 'x..70'],
  ['4317', 'x2'],
  ['4318', 'x..20'],
  ['4319', 'x..30'],
  ['4320', 'x..35'],
  ['4321-4323', 'n1'],
  ['4324-4325', 'n10'],
  ['4326', 'n6'],
  ['4330-4333', 'n6+x1?'],
  ['7001', 'n13'],
  ['7002', 'x..30'],
  ['7003', 'n10'],
  ['7004', 'n..4'],
  ['7005', 'x..12'],
  ['7006', 'n6'],
  ['7007', 'n6+n6?'],
  ['7008', 'x..3'],
  ['7009', 'x..10'],
  ['7010', 'x..2'],
  ['7011', 'n6+n4?'],
  ['7020-7022', 'x..20'],
  ['7023', 'x..30'],
  ['7030-7039', 'n3+x..27'],
  ['7040', 'n1+x3'],
  ['7041', 'x..4'],
  ['710-717', 'x..20'],
  ['7230-7239', 'x2+x..28'],
  ['7240', 'x..20'],
  ['7241', 'n2'],
  ['7242', 'x..25'],
  ['7250', 'n8'],
  ['7251', 'n12'],
  ['7252', 'n1'],
  ['7253-7254', 'x..40'],
  ['7255', 'x..10'],
  ['7256', 'x..90'],
  ['7257', 'x..70'],
  ['7258', 'n1+x1+n1'],
  ['7259', 'x..40'],
  ['8001', 'n14'],
  ['8002', 'x..20'],
  ['8003', 'n14+x..16?'],
  ['8004', 'x..30'],
  ['8005', 'n6'],
  ['8006', 'n18'],
  ['8007', 'x..34'],
  ['8008', 'n8+n..4?'],
  ['8009', 'x..50'],
  ['8010', 'x..30'],
  ['8011', 'n..12'],
  ['8012', 'x..20'],
  ['8013', 'x..25'],
  ['8014', 'x..25'],
  ['8017-8018', 'n18'],
  ['8019', 'n..10'],
  ['8020', 'x..25'],
  ['8026', 'n18'],
  ['8030', 'x..90'],
  ['8110', 'x..70'],
  ['8111', 'n4'],
  ['8112', 'x..70'],
  ['8200', 'x..70'],
  ['90', 'x..30'],
  ['91-99', 'x..90']
];

/** `n3+x..27` → what its data must look like. */
function patternOf(form: string): RegExp {
  const parts = form.split('+').map((part) => {
    const [, kind, upTo, length, optional] = /^([nx])(\.\.)?(\d+)(\?)?$/.exec(part)!;
    const sign = kind === 'n' ? '\\d' : '[^\\u001d]';
    const count = upTo ? `{1,${length}}` : `{${length}}`;
    return optional ? `(?:${sign}${count})?` : sign + count;
  });
  return new RegExp(`^${parts.join('')}$`);
}

/** `01-03` → 01, 02, 03. */
function codesOf(range: string): string[] {
  const [first, last = first] = range.split('-') as [string, string?];
  const count = Number(last) - Number(first) + 1;
  return Array.from({ length: count }, (_, n) =>
    String(Number(first) + n).padStart(first.length, '0')
  );
}

/** What the data of each identifier must look like, by its code of two to four digits. */
export const IDENTIFIERS: ReadonlyMap<string, RegExp> = new Map(
  TABLE.flatMap(([codes, form]) => {
    const pattern = patternOf(form);
    return codes
      .split(' ')
      .flatMap(codesOf)
      .map((code): [string, RegExp] => [code, pattern]);
  })
);

/**
 * Characters of data that follow an identifier without a separator, by its first two digits; of all
 * others a separator says where they end. Source: General Specifications, figure 7.8.5-2, quoted
 * from memory: the lengths are fixed for ever, identifier included.
 */
const PREDEFINED: Readonly<Record<string, number>> = {
  '00': 20,
  '01': 16,
  '02': 16,
  '03': 16,
  '04': 18,
  '11': 8,
  '12': 8,
  '13': 8,
  '14': 8,
  '15': 8,
  '16': 8,
  '17': 8,
  '18': 8,
  '19': 8,
  '20': 4,
  '31': 10,
  '32': 10,
  '33': 10,
  '34': 10,
  '35': 10,
  '36': 10,
  '41': 16
};

/** Characters of its data where they are predefined; null where a separator ends them. */
export const predefinedLength = (code: string): number | null => {
  const whole = PREDEFINED[code.slice(0, 2)];
  return whole === undefined ? null : whole - code.length;
};

/** The identifier a text begins with; null where it begins with none. */
export const identifierAt = (text: string): string | null =>
  [2, 3, 4].map((length) => text.slice(0, length)).find((code) => IDENTIFIERS.has(code)) ?? null;
