import type { Kind } from './field.js';

/** Whole numbers of a name: always the same, and rarely those of another. */
function sumOf(name: string): number {
  let sum = 0;
  for (const letter of name) sum = (31 * sum + letter.codePointAt(0)!) % 997;
  return sum;
}

/** Corners of a shape that goes out and in by turns. */
const corners = (count: number, radius: number, inner: number): string =>
  Array.from({ length: 2 * count }, (_, index) => {
    const angle = (Math.PI * index) / count - Math.PI / 2;
    const length = index % 2 === 0 ? radius : radius * inner;
    return `${(length * Math.cos(angle)).toFixed(2)},${(length * Math.sin(angle)).toFixed(2)}`;
  }).join(' ');

/**
 * A drawing of our own for any thing: what is sought has petals, what arrives has spikes, all else is a box; how many, and the colour, come
 * of its name, so that two are told apart by both.
 */
export function Shape({
  name,
  radius,
  meets,
}: {
  readonly name: string;
  readonly radius: number;
  readonly meets: Kind['meets'];
}) {
  const sum = sumOf(name);
  const fill = `hsl(${(sum * 47) % 360} 62% 62%)`;
  const count = 4 + (sum % 5);
  if (meets === 'arrives')
    return (
      <g className="shape">
        <polygon points={corners(count + 3, radius, 0.62)} fill={fill} />
        <circle r={radius * 0.22} className="heart" />
      </g>
    );
  if (meets === 'never')
    return (
      <rect
        className="shape"
        x={-0.8 * radius}
        y={-0.8 * radius}
        width={1.6 * radius}
        height={1.6 * radius}
        rx={radius * 0.15 * (sum % 4)}
        fill={fill}
      />
    );
  return (
    <g className="shape">
      {Array.from({ length: count }, (_, petal) => {
        const angle = (360 * petal) / count;
        return (
          <ellipse
            key={angle}
            rx={radius * 0.34}
            ry={radius * 0.52}
            cy={-radius * 0.5}
            transform={`rotate(${angle})`}
            fill={fill}
          />
        );
      })}
      <circle r={radius * 0.3} className="heart" />
    </g>
  );
}

/** The drawing of a thing beside its name. */
export function Mark({ name, meets = 'sought' }: { readonly name: string; readonly meets?: Kind['meets'] }) {
  return (
    <svg viewBox="-8 -8 16 16" width="18" height="18" aria-hidden="true">
      <Shape name={name} radius={7.4} meets={meets} />
    </svg>
  );
}
