import QRCode from 'qrcode';
import { useMemo } from 'react';
import Svg, { Path, Rect } from 'react-native-svg';

/** So many modules are left free around it (ISO/IEC 18004, quiet zone). */
const QUIET = 4;

/** An address as a QR code: dark on light in either look, since some readers know no other. */
export function Qr({ text, size, name }: { text: string; size: number; name: string }) {
  const { side, path } = useMemo(() => {
    const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
    const cells: string[] = [];
    for (let y = 0; y < modules.size; y++)
      for (let x = 0; x < modules.size; x++)
        if (modules.get(y, x)) cells.push(`M${x + QUIET} ${y + QUIET}h1v1h-1z`);
    return { side: modules.size + 2 * QUIET, path: cells.join('') };
  }, [text]);
  return (
    <Svg
      width={size}
      height={size}
      viewBox={`0 0 ${side} ${side}`}
      {...({ role: 'img', 'aria-label': name, shapeRendering: 'crispEdges' } as object)}
    >
      <Rect width={side} height={side} fill="#ffffff" />
      <Path d={path} fill="#000000" />
    </Svg>
  );
}
