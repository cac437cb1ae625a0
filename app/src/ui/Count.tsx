import Badge from '@rneui/themed/dist/Badge';
import { FONT, useLook } from './look.ts';
import { rem } from './rem.ts';

/** A number beside a word; the word says what of. */
export function Count({ n }: { n: number }) {
  const look = useLook();
  return (
    <Badge
      value={n}
      badgeStyle={{
        minHeight: rem(22),
        height: 'auto',
        minWidth: rem(22),
        borderRadius: 6,
        borderWidth: 0,
        backgroundColor: look.slateFill,
        paddingHorizontal: 4,
      }}
      textStyle={{
        fontFamily: FONT,
        fontSize: rem(14),
        fontWeight: '650' as never,
        color: look.ink,
      }}
      {...({ 'aria-hidden': true } as object)}
    />
  );
}
