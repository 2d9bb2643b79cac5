import { string } from 'yup';

/** A month as it is asked for, like 2026-11. */
export const isMonth = string()
  .matches(/^\d{4}-(0[1-9]|1[0-2])$/, 'A month is written like 2026-11')
  .required('The month is missing');
