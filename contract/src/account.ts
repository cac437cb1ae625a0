import { object, string } from 'yup';

/** What a person does to their account itself: always with its password of now, or by a link. */

const password = (label: string) =>
  string()
    .strict()
    .typeError('A password is text.')
    .required(label)
    .max(200, 'A password has 200 characters at most.');
const newPassword = password('Give a new password.').min(
  10,
  'A password has 10 characters at least.',
);
const address = string()
  .strict()
  .typeError('An e-mail address is text.')
  .required('Give an e-mail address.')
  .max(254, 'An e-mail address has 254 characters at most.')
  .matches(/^[^\s@]+@[^\s@]+\.[^\s@]+$/u, 'That is not written as an e-mail address.');

export const passwordSchema = object({
  old: password('Give your password.'),
  password: newPassword,
})
  .noUnknown()
  .strict();
export const addressSchema = object({ old: password('Give your password.'), name: address })
  .noUnknown()
  .strict();
export const removalSchema = object({ old: password('Give your password.') })
  .noUnknown()
  .strict();
export const forgottenSchema = object({ name: address }).noUnknown().strict();
export const resetSchema = object({
  token: string().strict().required('The link is not whole.').max(300, 'That is no link of ours.'),
  password: newPassword,
})
  .noUnknown()
  .strict();
