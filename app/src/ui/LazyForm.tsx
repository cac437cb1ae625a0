import { Suspense, lazy, type ComponentProps } from 'react';
import type { FieldValues } from 'react-hook-form';
import type Form from './Form.tsx';
import { Waiting } from './Waiting.tsx';

export type { FormParts, Refusal } from './Form.tsx';

const Loaded = lazy(() => import('./Form.tsx'));

type FormProps<T extends FieldValues> = ComponentProps<typeof Form<T>>;

/** A form, loaded when it is first shown: Today, which shows none, opens sooner. */
export function LazyForm<T extends FieldValues>(props: FormProps<T>) {
  return (
    <Suspense fallback={<Waiting lines={4} label="The form is on its way" />}>
      <Loaded {...(props as unknown as FormProps<FieldValues>)} />
    </Suspense>
  );
}
