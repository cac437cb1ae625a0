import {
  MOST_ANSWER,
  type Answer,
  type Filled,
  type Question,
  type TodoView,
  type WrittenDown,
} from '@back-again/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Choice } from '../Choice.tsx';
import { Field } from '../Field.tsx';
import { Toggles } from '../Toggles.tsx';
import { Words } from '../Words.tsx';
import { numberIn, numberText } from './numbers.ts';
import { rem } from '../rem.ts';
import { APART } from '../look.ts';

/** An answer in words, as it stands in a record. */
export function answerText(question: Question, answer: Answer): string {
  if (typeof answer === 'boolean') return answer ? 'yes' : 'no';
  if (typeof answer === 'string') return answer;
  const n = numberText(answer);
  if (question.kind === 'scale') return `${n} of ${question.to}`;
  if (question.kind === 'minutes') return `${n} min`;
  return question.kind === 'number' && question.unit ? `${n} ${question.unit}` : n;
}

interface QuestionsProps {
  name: string;
  todo: TodoView;
  /** The time that is answered for. */
  time: { number: number; filled?: Filled };
  onAnswer: (written: WrittenDown) => void;
}

/** What is asked of a time that was done, in place and none of it in the way. */
export function Questions({ name, todo, time, onAnswer }: QuestionsProps) {
  const { questions = [], takes } = todo.series;
  const last = todo.written?.findLast(({ number }) => number !== time.number);
  const { answers = {}, spent } = time.filled ?? {};
  return (
    <View role="group" aria-label={`Write down: ${name}`} style={{ gap: 4 }}>
      {questions.map((question) => {
        const before = last?.answers?.[question.id];
        return (
          <Asked
            key={question.id}
            question={question}
            answer={answers[question.id] ?? null}
            last={before === undefined ? null : answerText(question, before)}
            onAnswer={(answer) => onAnswer({ answers: { [question.id]: answer } })}
          />
        );
      })}
      <NumberAsked
        label="Minutes"
        unit="min"
        last={last?.spent === undefined ? null : `${last.spent} min`}
        value={spent ?? null}
        begins={takes ?? null}
        isWhole
        onAnswer={(minutes) => onAnswer({ spent: minutes })}
      />
    </View>
  );
}

function Asked({
  question,
  answer,
  last,
  onAnswer,
}: {
  question: Question;
  answer: Answer | null;
  last: string | null;
  onAnswer: (answer: Answer | null) => void;
}) {
  const label = capital(question.asks);
  switch (question.kind) {
    case 'number':
    case 'minutes':
      return (
        <NumberAsked
          label={label}
          unit={question.kind === 'minutes' ? 'min' : question.unit}
          last={last}
          value={typeof answer === 'number' ? answer : null}
          begins={null}
          isWhole={question.kind === 'minutes'}
          onAnswer={onAnswer}
        />
      );
    case 'scale':
      return (
        <Line label={label} hint={endsOf(question, last)}>
          <View style={{ width: Math.min(5, question.to) * 52 }}>
            <Toggles
              label={label}
              items={Array.from({ length: question.to }, (_, i) => ({
                value: i + 1,
                name: `${label}: ${i + 1} of ${question.to}`,
                short: String(i + 1),
              }))}
              value={typeof answer === 'number' ? [answer] : []}
              columns={Math.min(5, question.to)}
              onToggle={(n, on) => onAnswer(on ? n : null)}
            />
          </View>
        </Line>
      );
    case 'yesno':
      return (
        <Line label={label} hint={lastText(last)}>
          <Choice
            label={label}
            options={YES}
            value={answer === true ? 'yes' : answer === false ? 'no' : null}
            onChange={(it) => onAnswer(it === 'yes')}
          />
        </Line>
      );
    case 'choice':
      return (
        <Line label={label} hint={lastText(last)}>
          <Choice
            label={label}
            options={question.of.map((value) => ({ value, label: value }))}
            value={typeof answer === 'string' ? answer : null}
            onChange={onAnswer}
          />
        </Line>
      );
    case 'text':
      return (
        <TextAsked
          label={label}
          last={last}
          value={typeof answer === 'string' ? answer : ''}
          onAnswer={(text) => onAnswer(text || null)}
        />
      );
  }
}

const YES = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
] as const;

const capital = (text: string) => text.charAt(0).toLocaleUpperCase() + text.slice(1);
const lastText = (last: string | null) => (last === null ? null : `last time ${last}`);

function endsOf({ low, high, to }: Extract<Question, { kind: 'scale' }>, last: string | null) {
  const ends = [low ? `1 ${low}` : null, high ? `${to} ${high}` : null, lastText(last)];
  return ends.filter(Boolean).join(', ') || null;
}

function Line({
  label,
  hint,
  children,
}: {
  label: string;
  hint: string | null;
  children: ReactNode;
}) {
  return (
    <View
      style={{
        ...APART,
        minHeight: 52,
      }}
    >
      <View style={{ minWidth: 90, flexShrink: 1 }}>
        <Words size={15.5} style={{ lineHeight: 20 }}>
          {label}
        </Words>
        {hint ? (
          <Words size={14} tint="soft" style={{ lineHeight: 18 }}>
            {hint}
          </Words>
        ) : null}
      </View>
      {children}
    </View>
  );
}

function NumberAsked({
  label,
  unit,
  last,
  value,
  begins,
  isWhole,
  onAnswer,
}: {
  label: string;
  unit: string;
  last: string | null;
  value: number | null;
  /** What stands there at first: the estimate. */
  begins: number | null;
  isWhole: boolean;
  onAnswer: (n: number | null) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const kept = value === null ? '' : numberText(value);
  const n = text === null ? null : numberIn(text);
  const isWrong = text !== null && text.trim() !== '' && (n === null || (isWhole && n < 0));
  const commit = () => {
    if (text === null || isWrong) return;
    const next = n !== null && isWhole ? Math.round(n) : n;
    setText(null);
    if (next !== value) onAnswer(next);
  };
  return (
    <Line label={label} hint={lastText(last)}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
        <View style={{ width: rem(108) }}>
          <Field
            label={unit && unit !== label.toLowerCase() ? `${label}, in ${unit}` : label}
            labelHidden
            value={text ?? kept}
            placeholder={begins === null ? undefined : String(begins)}
            onChangeText={setText}
            onBlur={commit}
            onSubmitEditing={commit}
            inputMode="decimal"
            error={isWrong ? 'A number, as 34.2' : undefined}
          />
        </View>
        {unit && unit !== label.toLowerCase() ? (
          <Words size={15} tint="soft">
            {unit}
          </Words>
        ) : null}
      </View>
    </Line>
  );
}

function TextAsked({
  label,
  last,
  value,
  onAnswer,
}: {
  label: string;
  last: string | null;
  value: string;
  onAnswer: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.length > MOST_ANSWER) return;
    if (text !== null && text.trim() !== value) onAnswer(text.trim());
    setText(null);
  };
  return (
    <Field
      label={label}
      hint={lastText(last) ?? undefined}
      value={text ?? value}
      onChangeText={setText}
      onBlur={commit}
      maxLength={MOST_ANSWER}
      multiline
    />
  );
}
