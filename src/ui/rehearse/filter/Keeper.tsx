/** What the filter’s camera sees. */
export interface Seen {
  isMouthOpen: boolean;
  isBlinking: boolean;
  isHandSeen: boolean;
  /** How loud it is, 0 … 1: the lamp on the hat shines by it. */
  glow: number;
}

/** The keeper of Marrow Skerry in a storm, with the filter’s lamp on the oilskin hat. */
export function Keeper({ isMouthOpen, isBlinking, isHandSeen, glow }: Seen) {
  const ink = 'var(--color-base-content)';
  return (
    <svg
      viewBox="0 0 270 480"
      role="img"
      aria-label={labelOf({ isMouthOpen, isBlinking, isHandSeen })}
    >
      <rect width="270" height="480" fill="#3d4a52" />
      <path d="M0 0h270v190q-60-22-135 0T0 178z" fill="#56656c" />
      <path
        d="M14 60q60-26 120 0t124-8M-10 118q70-24 138 4t150-14"
        fill="none"
        stroke="#75858a"
        strokeWidth="9"
        opacity=".45"
      />
      <g stroke="#a9b6b7" strokeWidth="1.4" opacity=".5">
        {rain.map(([x, y]) => (
          <path key={`${x} ${y}`} d={`M${x} ${y}l-9 30`} />
        ))}
      </g>
      <g>
        <path d="M28 300l7-118h22l7 118z" fill="#d8cfba" />
        <path d="M31 262h30M33 226h26" stroke="#8d3b2d" strokeWidth="11" />
        <path d="M32 182h28v-19H32zM30 163q16-17 32 0z" fill="#3b3226" />
        <rect x="38" y="167" width="16" height="12" fill="#f3d98b" />
      </g>
      <path d="M-5 306q34-22 70 0t70 0 70 0 70 0v180H-5z" fill="#2b3a44" />
      <path
        d="M-5 340q34-18 70 0t70 0 70 0 70 0"
        fill="none"
        stroke="#7d9197"
        strokeWidth="3"
        opacity=".6"
      />
      {/* The lamp’s light lies in front of the sea. */}
      <path d="M135 96L-60 20v150z" fill="#f6dc90" opacity={0.1 + 0.5 * glow} />
      <path d="M135 96L330 20v150z" fill="#f6dc90" opacity={0.1 + 0.5 * glow} />
      <path d="M44 480q6-112 91-118 85 6 91 118z" fill="#b98a1e" />
      <path d="M135 372v108M112 384l23 22 23-22" fill="none" stroke="#7e5c10" strokeWidth="4" />
      <path d="M78 216q0-62 57-62t57 62q4 104-57 122-61-18-57-122z" fill="#dcae8a" />
      <path d="M76 248q10 44 34 34 25-12 50 0 24 10 34-34 8 128-59 128T76 248z" fill="#e8e2d4" />
      <path d="M104 274q31-20 62 0-14 14-31 2-17 12-31-2z" fill="#f6f1e6" />
      {isMouthOpen ? (
        <ellipse cx="135" cy="304" rx="17" ry="22" fill="#53251c" />
      ) : (
        <path
          d="M118 299q17 7 34 0"
          fill="none"
          stroke="#53251c"
          strokeWidth="4"
          strokeLinecap="round"
        />
      )}
      <path
        d="M135 226q-13 30-3 36 9 4 14-3"
        fill="none"
        stroke="#a8755a"
        strokeWidth="4"
        strokeLinecap="round"
      />
      {[108, 162].map((x) =>
        isBlinking ? (
          <path
            key={x}
            d={`M${x - 13} 222q13 9 26 0`}
            fill="none"
            stroke={ink}
            strokeWidth="4"
            strokeLinecap="round"
          />
        ) : (
          <g key={x}>
            <ellipse cx={x} cy="220" rx="13" ry="9" fill="#fdfaf3" />
            <circle cx={x} cy="220" r="5.5" fill="#29434f" />
          </g>
        ),
      )}
      <path
        d="M92 200q16-10 30-2M148 198q14-8 30 2"
        fill="none"
        stroke="#cfc7b4"
        strokeWidth="7"
        strokeLinecap="round"
      />
      <path d="M46 190q89-34 178 0 6-12-24-34-6-66-65-66t-65 66q-30 22-24 34z" fill="#c9971f" />
      <path d="M70 156q65-26 130 0" fill="none" stroke="#8a6512" strokeWidth="6" />
      <circle cx="135" cy="112" r="21" fill="#5a4a2a" />
      <circle cx="135" cy="112" r="14" fill="#f8e3a1" opacity={0.35 + 0.65 * glow} />
      {isHandSeen && (
        <g fill="#dcae8a" stroke="#a8755a" strokeWidth="2">
          <path d="M204 470q-10-60 4-92l-6-40q2-9 9-3l8 34 1-48q5-9 11 0l3 46 9-42q7-7 11 2l-5 46 12-28q8-4 9 5l-12 52q-2 40-14 68z" />
        </g>
      )}
    </svg>
  );
}

const rain = Array.from({ length: 26 }, (_, i) => [(i * 67) % 280, (i * 103) % 400] as const);

function labelOf({ isMouthOpen, isBlinking, isHandSeen }: Omit<Seen, 'glow'>): string {
  const doing = [
    isMouthOpen && 'the mouth open',
    isBlinking && 'the eyes shut',
    isHandSeen && 'a hand raised',
  ].filter(Boolean);
  const how = doing.length > 0 ? `, ${doing.join(', ')}` : '';
  return `A keeper in a storm, with a lamp on the hat${how}`;
}
