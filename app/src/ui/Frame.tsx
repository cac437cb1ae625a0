import { Link, usePathname, type Href } from 'expo-router';
import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { Count } from './Count.tsx';
import { Keys } from './Keys.tsx';
import { Speaker } from './Speaker.tsx';
import { Heading } from './Words.tsx';
import { mayLeave } from './leaving.ts';
import { FONT, THUMB, useLook, useWide } from './look.ts';
import { rem } from './rem.ts';

export { useAnnounce } from './Speaker.tsx';

const PLACES: { href: Href; label: string }[] = [
  { href: '/', label: 'Today' },
  { href: '/ahead' as Href, label: 'Ahead' },
  { href: '/all', label: 'All' },
  { href: '/past' as Href, label: 'Past' },
];
const SETTINGS = { href: '/settings' as Href, label: 'Settings' };

/** Whether a screen is that of an entry, or lies behind it. */
const isHere = (here: string, href: Href) =>
  here === href || (href !== '/' && here.startsWith(`${String(href)}/`));

/** The way to the reminders, with how many are new. */
export const remindersLabel = (fresh: number) => (fresh ? `Reminders, ${fresh} new` : 'Reminders');

interface FrameProps {
  children: ReactNode;
  /** How many reminders are new. */
  fresh: number;
  /** How many to-dos lack a place or a date. */
  unsorted: number;
}

/** What stands around every screen: the way to the others, at the foot of a phone, at the left when wide. */
export function Frame({ children, fresh, unsorted }: FrameProps) {
  const look = useLook();
  const wide = useWide();
  // The editor is a place of its own on a phone: it has its own way out.
  const here = usePathname();
  const writing = here === '/write';
  return (
    <Speaker place={here}>
      <View
        style={{ flex: 1, flexDirection: wide ? 'row' : 'column', backgroundColor: look.paper }}
      >
        {wide ? <Side fresh={fresh} unsorted={unsorted} /> : null}
        <View style={{ flex: 1, minWidth: 0 }} role="main">
          <Keys />
          {children}
        </View>
        {wide || writing ? null : <Bar />}
      </View>
    </Speaker>
  );
}

/** A link leaves what may be left. */
const asked = (event: { preventDefault(): void }) => {
  if (!mayLeave()) event.preventDefault();
};

/** A link as high as a thumb, with its word in the middle of it. */
const MIDDLED = { display: 'flex', alignItems: 'center', justifyContent: 'center' } as const;

function Bar() {
  const look = useLook();
  const here = usePathname();
  return (
    <View
      role="navigation"
      aria-label="Screens"
      style={{
        minHeight: 68,
        borderTopWidth: 1,
        borderTopColor: look.line,
        backgroundColor: look.card,
        flexDirection: 'row',
        flexWrap: 'wrap',
        alignItems: 'center',
        justifyContent: 'flex-end',
        paddingLeft: 8,
        paddingRight: 12,
        gap: 6,
      }}
    >
      {PLACES.map(({ href, label }) => (
        <Link
          key={label}
          href={href}
          onPress={asked}
          aria-current={isHere(here, href) ? 'page' : undefined}
          style={{
            ...MIDDLED,
            flexGrow: 1,
            minHeight: 65,
            fontFamily: FONT,
            fontSize: rem(15),
            fontWeight: isHere(here, href) ? '700' : '500',
            color: isHere(here, href) ? look.ink : look.soft,
            borderTopWidth: 3,
            borderTopColor: isHere(here, href) ? look.ink : 'transparent',
            textDecorationLine: 'none',
          }}
        >
          {label}
        </Link>
      ))}
      <WriteOne />
    </View>
  );
}

function Side({ fresh, unsorted }: Omit<FrameProps, 'children'>) {
  const places: { href: Href; label: string; name?: string }[] = [
    ...PLACES,
    ...(unsorted
      ? [{ href: '/unsorted' as Href, label: 'Unsorted', name: `Unsorted, ${unsorted}` }]
      : []),
    { href: '/places' as Href, label: 'Places' },
    { href: '/said' as Href, label: remindersLabel(fresh) },
    SETTINGS,
  ];
  const look = useLook();
  const here = usePathname();
  return (
    <View
      role="navigation"
      aria-label="Screens"
      style={{
        width: rem(168),
        borderRightWidth: 1,
        borderRightColor: look.line,
        paddingTop: 26,
        paddingLeft: 22,
      }}
    >
      <Heading level={2} size={22} style={{ marginBottom: 20 }}>
        {'Back\nAgain'}
      </Heading>
      {places.map(({ href, label, name }) => (
        <Link
          key={String(href)}
          href={href}
          onPress={asked}
          aria-label={name}
          aria-current={isHere(here, href) ? 'page' : undefined}
          style={{
            ...MIDDLED,
            justifyContent: 'flex-start',
            gap: 8,
            minHeight: THUMB,
            fontFamily: FONT,
            fontSize: rem(16),
            fontWeight: isHere(here, href) ? '700' : '500',
            color: isHere(here, href) ? look.ink : look.soft,
            borderRightWidth: 4,
            borderRightColor: isHere(here, href) ? look.ink : 'transparent',
            textDecorationLine: 'none',
          }}
        >
          {label}
          {name ? <Count n={unsorted} /> : null}
        </Link>
      ))}
      <View style={{ marginTop: 18, alignItems: 'flex-start' }}>
        <WriteOne />
      </View>
    </View>
  );
}

function WriteOne() {
  const look = useLook();
  return (
    <Link
      href="/write"
      onPress={asked}
      style={{
        ...MIDDLED,
        backgroundColor: look.ink,
        color: look.paper,
        fontFamily: FONT,
        fontSize: rem(15),
        fontWeight: '650' as never,
        minHeight: THUMB,
        marginVertical: 6,
        paddingHorizontal: 16,
        borderRadius: 10,
        textDecorationLine: 'none',
      }}
    >
      Write one
    </Link>
  );
}

interface ScreenProps {
  children: ReactNode;
  /** At most this wide; the rest of a wide screen is left to `detail`. */
  width?: number;
  detail?: ReactNode;
  /** What stays in reach at its foot, however far it is scrolled. */
  foot?: ReactNode;
}

/** A screen that scrolls, with a detail beside it when there is room. */
export function Screen({ children, width, detail, foot }: ScreenProps) {
  const look = useLook();
  const wide = useWide();
  const list = (
    <View
      style={{
        ...(wide && width ? { width, flexGrow: 0, flexShrink: 0 } : { flex: 1 }),
        borderRightWidth: wide && detail ? 1 : 0,
        borderRightColor: look.line,
      }}
    >
      <ScrollView style={{ flex: 1 }} contentContainerStyle={{ paddingBottom: 32 }}>
        {children}
      </ScrollView>
      {foot ? (
        <View
          style={{
            paddingHorizontal: 20,
            paddingVertical: 8,
            borderTopWidth: 1,
            borderTopColor: look.line,
            backgroundColor: look.card,
          }}
        >
          {foot}
        </View>
      ) : null}
    </View>
  );
  if (!wide || !detail) return list;
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      {list}
      <ScrollView
        style={{ flex: 1 }}
        contentContainerStyle={{ padding: 28, paddingBottom: 40 }}
        role="complementary"
        aria-label="The chosen to-do"
      >
        {detail}
      </ScrollView>
    </View>
  );
}
