import { yupResolver } from '@hookform/resolvers/yup';
import { registerSchema, settingsSchema, signInSchema } from '@back-again/contract';
import {
  addressSchema,
  forgottenSchema,
  passwordSchema,
  removalSchema,
  resetSchema,
} from '@back-again/contract/account';
import { useCallback, useEffect, useRef, type ReactNode } from 'react';
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
  /**
   * Whether it is kept as it is chosen, a moment after the last touch and when it is left: what is wrong in
   * one field holds none of the others back.
   */
  keeps?: boolean;
  children: (parts: FormParts<T>) => ReactNode;
}

/** So long nothing is chosen when it is kept, in ms. */
const REST = 500;

/** A form that is checked in the browser by the schema that the server checks with. */
export default function Form<T extends FieldValues>({
  schema,
  values,
  onSubmit,
  keeps = false,
  children,
}: FormProps<T>) {
  const {
    watch,
    setValue,
    handleSubmit,
    setError,
    clearErrors,
    trigger,
    getValues,
    getFieldState,
    formState,
  } = useForm<T>({
    resolver: yupResolver(SCHEMAS[schema] as typeof signInSchema) as unknown as Resolver<T>,
    defaultValues: values as never,
    // What comes from elsewhere is shown, but for what was touched here.
    ...(keeps ? { values, resetOptions: { keepDirtyValues: true, keepErrors: true } } : {}),
  });
  const { errors, isSubmitting, isSubmitted, isDirty } = formState;
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef({ values, onSubmit });
  latest.current = { values, onSubmit };
  /** Sends it, and says where it was refused. */
  const send = useCallback(
    async (typed: T) => {
      const refusal = await latest.current.onSubmit(typed);
      clearErrors('root');
      if (!refusal) return;
      const { where, message } = refusal;
      const isField = where in latest.current.values;
      setError(isField ? (where as FieldPath<T>) : 'root', { message });
    },
    [clearErrors, setError],
  );
  const submit = handleSubmit(send);
  /** Keeps what is chosen, but for the parts with something wrong in them: these stay as they were. */
  const keepNow = useCallback(async () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    await trigger();
    const sent = { ...getValues() };
    for (const part of Object.keys(sent))
      if (getFieldState(part as FieldPath<T>).invalid)
        sent[part as keyof T] = latest.current.values[part as keyof T];
    await send(sent);
  }, [trigger, getValues, getFieldState, send]);
  const change = (name: FieldPath<T>, value: unknown) => {
    setValue(name, value as never, { shouldDirty: true, shouldValidate: isSubmitted });
    if (!keeps) return;
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void keepNow(), REST);
  };
  useEffect(
    () => () => {
      // Left before that: it is kept all the same.
      if (timer.current) void keepNow();
    },
    [keepNow],
  );
  const messageAt = (name: string) =>
    (get(errors, name) as { message?: string } | undefined)?.message;
  return children({
    bind: (name) => ({
      value: watch(name),
      onChangeText: (text) => change(name, text),
      error: messageAt(name),
    }),
    choose: (name) => ({
      value: watch(name),
      onChange: (value) => change(name, value),
      error: messageAt(name),
    }),
    submit: () => void (keeps ? keepNow() : submit()),
    busy: isSubmitting,
    failure: errors.root?.message,
    changed: isDirty,
  });
}
