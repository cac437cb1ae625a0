import type { Nodes, Parent } from 'mdast';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { Fragment, useMemo, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { Heading, Words } from './Words.tsx';
import { FONT, useLook, type Look } from './look.ts';

/**
 * Markdown (CommonMark) as parts of the interface. Nothing of it is ever HTML: tags are shown as the
 * text that they are, only links to the web, to mail and to telephones open, and nothing is fetched.
 */
export default function Markdown({ text }: { text: string }) {
  const look = useLook();
  const tree = useMemo(() => fromMarkdown(text), [text]);
  return <View style={{ gap: 8 }}>{tree.children.map((node, i) => block(node, i, look))}</View>;
}

const OPENS = /^(?:https?|mailto|tel):/iu;

function inside(node: Parent, look: Look): ReactNode {
  return node.children.map((child, i) => <Fragment key={i}>{inline(child, look)}</Fragment>);
}

function inline(node: Nodes, look: Look): ReactNode {
  switch (node.type) {
    case 'text':
    case 'html':
      return node.value;
    case 'inlineCode':
      return <Text style={{ fontFamily: 'ui-monospace, monospace' }}>{node.value}</Text>;
    case 'strong':
      return <Text style={{ fontWeight: '700' }}>{inside(node, look)}</Text>;
    case 'emphasis':
      return <Text style={{ fontStyle: 'italic' }}>{inside(node, look)}</Text>;
    case 'break':
      return '\n';
    case 'image':
      // A picture from elsewhere would tell who looks at it: its words stand for it.
      return `${node.alt ?? ''} (${node.url})`;
    case 'link':
      return OPENS.test(node.url) ? (
        <Text
          {...({
            href: node.url,
            hrefAttrs: { target: '_blank', rel: 'noopener noreferrer' },
          } as object)}
          style={{ color: look.ink, textDecorationLine: 'underline' }}
        >
          {inside(node, look)}
        </Text>
      ) : (
        <>
          {inside(node, look)}
          {` (${node.url})`}
        </>
      );
    default:
      return 'children' in node ? inside(node, look) : 'value' in node ? node.value : '';
  }
}

function block(node: Nodes, key: number, look: Look): ReactNode {
  switch (node.type) {
    case 'heading':
      return (
        <Heading key={key} level={3} size={16}>
          {inside(node, look)}
        </Heading>
      );
    case 'list':
      return (
        <View key={key} role="list" style={{ gap: 2 }}>
          {node.children.map((item, i) => (
            <View key={i} role="listitem" style={{ flexDirection: 'row', gap: 8 }}>
              <Words size={15.5}>{node.ordered ? `${(node.start ?? 1) + i}.` : '–'}</Words>
              <View style={{ flex: 1 }}>
                {item.children.map((child, n) => block(child, n, look))}
              </View>
            </View>
          ))}
        </View>
      );
    case 'blockquote':
      return (
        <View
          key={key}
          style={{ borderLeftWidth: 3, borderLeftColor: look.track, paddingLeft: 12 }}
        >
          {node.children.map((child, i) => block(child, i, look))}
        </View>
      );
    case 'code':
    case 'html':
      return (
        <Words
          key={key}
          size={15}
          style={{ fontFamily: node.type === 'code' ? 'monospace' : FONT }}
        >
          {node.value}
        </Words>
      );
    case 'thematicBreak':
      return <View key={key} style={{ height: 1, backgroundColor: look.line }} />;
    case 'definition':
      return null;
    default:
      return (
        <Words key={key} size={15.5}>
          {inline(node, look)}
        </Words>
      );
  }
}
