import { yupResolver } from '@hookform/resolvers/yup';
import { registerSchema, settingsSchema, signInSchema } from '@back-again/contract';
import {
  addressSchema,
  forgottenSchema,
  passwordSchema,
  removalSchema,
  resetSchema,
} from '@back-again/contract/account';
import type { ReactNode } from 'react';
import {
  get,
  useForm,
  type FieldPath,
  type FieldPathValue,
  type FieldValues,
  type Resolver,
} from 'react-hook-form';

/** The schemas of the contract that forms are checked by: the same as the server’s. */
const SCHEMAS = {
  register: registerSchema,
  signIn: signInSchema,
  settings: settingsSchema,
  password: passwordSchema,
  address: addressSchema,
  removal: removalSchema,
  forgotten: forgottenSchema,
  reset: resetSchema,
};

/** What is wrong, and with which field; where it names none it is about the whole form. */
export interface Refusal {
  where: string;
  message: string;
}

export interface FormParts<T extends FieldValues> {
  /** What a field needs: its value, what to do when it changes, and what is wrong with it. */
  bind(name: FieldPath<T>): {
    value: string;
    onChangeText: (text: string) => void;
    error: string | undefined;
  };
  /** The same for what is not text. */
  choose<K extends FieldPath<T>>(
    name: K,
  ): {
    value: FieldPathValue<T, K>;
    onChange: (value: FieldPathValue<T, K>) => void;
    error: string | undefined;
  };
  submit(): void;
  busy: boolean;
  /** What is wrong with the whole. */
  failure: string | undefined;
  /** Whether something was typed since it was shown. */
  changed: boolean;
}

interface FormProps<T extends FieldValues> {
  schema: keyof typeof SCHEMAS;
  values: T;
  /** Sends it; gives what was refused, or null. What was typed stays either way. */
  onSubmit: (values: T) => Promise<Refusal | null>;
  children: (parts: FormParts<T>) => ReactNode;
}

/** A form that is checked in the browser by the schema that the server checks with. */
export default function Form<T extends FieldValues>({
  schema,
  values,
  onSubmit,
  children,
}: FormProps<T>) {
  const { watch, setValue, handleSubmit, setError, formState } = useForm<T>({
    resolver: yupResolver(SCHEMAS[schema] as typeof signInSchema) as unknown as Resolver<T>,
    defaultValues: values as never,
  });
  const { errors, isSubmitting, isSubmitted, isDirty } = formState;
  const submit = handleSubmit(async (typed) => {
    const refusal = await onSubmit(typed);
    if (!refusal) return;
    const { where, message } = refusal;
    setError(where in values ? (where as FieldPath<T>) : 'root', { message });
  });
  const messageAt = (name: string) =>
    (get(errors, name) as { message?: string } | undefined)?.message;
  return children({
    bind: (name) => ({
      value: watch(name),
      onChangeText: (text) =>
        setValue(name, text as never, { shouldDirty: true, shouldValidate: isSubmitted }),
      error: messageAt(name),
    }),
    choose: (name) => ({
      value: watch(name),
      onChange: (value) =>
        setValue(name, value, { shouldDirty: true, shouldValidate: isSubmitted }),
      error: messageAt(name),
    }),
    submit: () => void submit(),
    busy: isSubmitting,
    failure: errors.root?.message,
    changed: isDirty,
  });
}
