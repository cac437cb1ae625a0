import { sizeText, type KeptFile } from '@back-again/core';
import { useState } from 'react';
import { Image, View } from 'react-native';
import type { Does } from '../data/act.ts';
import { fileUrl, useFiling, usePicture } from '../data/files.ts';
import { UndoNote } from '../ui/UndoNote.tsx';
import { WordLink, Words } from '../ui/Words.tsx';
import { useLook } from '../ui/look.ts';

interface FilesProps {
  /** What the time is called. */
  name: string;
  todo: string;
  slot: string;
  files: readonly KeptFile[];
  does: Does;
}

/** The files of a time: pictures small, all others by their names. */
export function Files({ name, todo, slot, files, does }: FilesProps) {
  const { attach, takeAway, waiting, failure, last, undo } = useFiling(does, { todo, slot });
  return (
    <View role="group" aria-label={`Files: ${name}`} style={{ gap: 4 }}>
      {files.map((file) => (
        <OneFile
          key={file.id}
          file={file}
          waits={waiting.has(file.id)}
          onTakeAway={() => takeAway(file)}
        />
      ))}
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label="Attach a file"
          name={`Attach a file: ${name}`}
          onPress={() => choose((file) => void attach(file))}
        />
      </View>
      {failure ? (
        <Words size={15} weight={650} live>
          {failure}
        </Words>
      ) : null}
      {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
    </View>
  );
}

/** Lets the person choose a file. */
function choose(onChosen: (file: File) => void): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.onchange = () => {
    const [file] = input.files ?? [];
    if (file) onChosen(file);
  };
  input.click();
}

const [WIDE, HIGH] = [72, 54];

interface OneFileProps {
  file: KeptFile;
  waits: boolean;
  onTakeAway: () => void;
}

function OneFile({ file, waits, onTakeAway }: OneFileProps) {
  const look = useLook();
  const picture = usePicture(file, waits);
  const [isBroken, setBroken] = useState(false);
  const size = sizeText(file.size);
  return (
    <View
      style={{
        flexDirection: 'row',
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 12,
        minHeight: 60,
      }}
    >
      {picture && !isBroken ? (
        <Image
          source={{ uri: picture }}
          accessibilityLabel={file.name}
          resizeMode="cover"
          onError={() => setBroken(true)}
          style={{
            width: WIDE,
            height: HIGH,
            borderRadius: 6,
            borderWidth: 1,
            borderColor: look.line,
          }}
        />
      ) : null}
      <View style={{ flexGrow: 1, flexShrink: 1, flexBasis: 140, minWidth: 0 }}>
        <Words size={15} weight={600} {...(waits ? {} : linkTo(file))}>
          {file.name}
        </Words>
        <Words size={14} tint="soft">
          {waits ? `${size} · is sent once there is a connection` : size}
        </Words>
      </View>
      <WordLink label="Take away" name={`Take away ${file.name}`} onPress={onTakeAway} />
    </View>
  );
}

/** A file opens in a window of its own. */
const linkTo = ({ id }: KeptFile) =>
  ({
    href: fileUrl(id),
    hrefAttrs: { target: '_blank', rel: 'noopener' },
    style: { textDecorationLine: 'underline', minHeight: 24 },
  }) as object;
