import { parseDay, shortDate, type LocalDate, type Question } from '@back-again/core';
import { isNumeric, type AnswerFigures } from '@back-again/core/past';
import type { PastTodoView } from '@back-again/contract/past';
import { View } from 'react-native';
import Svg, { Circle, Path, Rect, Text as SvgText } from 'react-native-svg';
import { Part } from '../../ui/Part.tsx';
import { Words } from '../../ui/Words.tsx';
import { FONT, useLook } from '../../ui/look.ts';
import { answerText } from '../../ui/time/Questions.tsx';
import { AsTable } from './AsTable.tsx';
import { amountText, answersText, capital } from './words.ts';
import { useWidth } from './useWidth.ts';
import { rem } from '../../ui/rem.ts';

type Said = PastTodoView['answers'][string];

interface AnswersProps {
  question: Question;
  figures: AnswerFigures | undefined;
  said: Said;
  today: LocalDate;
}

/** So many numbers there have to be before they are drawn. */
const LEAST = 3;
const MOST_READ = 12;

/** What was answered to one question over time: in a sentence, as a picture, and as a table. */
export function Answers({ question, figures, said, today }: AnswersProps) {
  const name = capital(question.asks);
  if (!figures)
    return (
      <Part title={name}>
        <Words size={15} tint="soft">
          Nothing was answered in this span.
        </Words>
      </Part>
    );
  const rows = said
    .map(({ on, answer }): [string, string] => [shortDate(on, today), answerText(question, answer)])
    .reverse();
  const table = <AsTable name={name} heads={['Done', name]} rows={rows} />;
  return (
    <Part title={name} aside={answersText(question, figures)}>
      {question.kind === 'text' ? (
        <Texts said={said} today={today} />
      ) : !isNumeric(question) ? (
        <>
          <Counts figures={figures} />
          {table}
        </>
      ) : said.length < LEAST ? (
        <Words size={15} tint="soft">
          {`Too little to draw yet: ${rows.map(([on, answer]) => `${answer} on ${on}`).join(', ')}.`}
        </Words>
      ) : (
        <>
          <Numbers question={question} figures={figures} said={said} />
          {table}
        </>
      )}
    </Part>
  );
}

const HIGH = 104;
/** Above the highest point there is room for the last number. */
const [TOP, FOOT] = [30, 94];

/** Numbers along the days, with what is usual as a line across. */
function Numbers({
  question,
  figures,
  said,
}: Pick<AnswersProps, 'question' | 'said'> & { figures: AnswerFigures }) {
  const look = useLook();
  const { width, onLayout } = useWidth();
  const numbers = said.map(({ answer }) => answer as number);
  const days = said.map(({ on }) => parseDay(on));
  const [least, greatest] = [Math.min(...numbers), Math.max(...numbers)];
  const [first, last] = [days[0]!, days.at(-1)!];
  const x = (day: number) => 8 + ((day - first) / Math.max(1, last - first)) * (width - 16);
  const y = (n: number) =>
    greatest === least
      ? (TOP + FOOT) / 2
      : FOOT - ((n - least) / (greatest - least)) * (FOOT - TOP);
  const points = numbers.map((n, i) => ({ x: x(days[i]!), y: y(n) }));
  const end = points.at(-1)!;
  return (
    <View onLayout={onLayout}>
      <Svg width={width} height={HIGH} viewBox={`0 0 ${width} ${HIGH}`} aria-hidden>
        <Path
          d={`M2 ${y(figures.usual!)}H${width - 2}`}
          stroke={look.track}
          strokeWidth={1.6}
          strokeDasharray="3 4"
        />
        <Path
          d={points.map((point, i) => `${i ? 'L' : 'M'}${point.x} ${point.y}`).join('')}
          fill="none"
          stroke={look.slate}
          strokeWidth={1.8}
        />
        {points.map((point, i) => (
          <Circle key={i} cx={point.x} cy={point.y} r={3.6} fill={look.slate} />
        ))}
        <SvgText
          x={width - 2}
          y={Math.min(end.y, ...points.slice(-4).map((point) => point.y)) - 10}
          fontSize={14}
          fontWeight="700"
          fontFamily={FONT}
          fill={look.ink}
          textAnchor="end"
        >
          {amountText(question, numbers.at(-1)!)}
        </SvgText>
      </Svg>
      <Words size={14.5} tint="soft">
        Dashed: what is usual. At the right: the last one.
      </Words>
    </View>
  );
}

/** How often each thing was said, as bars. */
function Counts({ figures: { counts = {}, of } }: { figures: AnswerFigures }) {
  const look = useLook();
  const all = Object.entries(counts).sort(([, a], [, b]) => b - a);
  return (
    <View style={{ gap: 4 }}>
      {all.map(([value, n]) => (
        <View key={value} style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
          <Words size={15} style={{ width: rem(108) }} numberOfLines={1}>
            {value === 'true' ? 'yes' : value === 'false' ? 'no' : value}
          </Words>
          <Svg width={150} height={16} aria-hidden>
            <Rect
              x={1}
              y={2}
              width={Math.max(3, (n / of) * 146)}
              height={12}
              rx={2}
              fill={look.slateFill}
              stroke={look.slate}
              strokeWidth={1.2}
            />
          </Svg>
          <Words size={15}>{String(n)}</Words>
        </View>
      ))}
    </View>
  );
}

/** Words are there to be read: the newest first. */
function Texts({ said, today }: Pick<AnswersProps, 'said' | 'today'>) {
  const last = said.slice(-MOST_READ).reverse();
  return (
    <View style={{ gap: 8 }}>
      {last.map(({ on, answer }, i) => (
        <View key={`${on} ${i}`}>
          <Words size={14.5} tint="soft">
            {shortDate(on, today)}
          </Words>
          <Words size={15.5}>{`“${String(answer)}”`}</Words>
        </View>
      ))}
    </View>
  );
}
