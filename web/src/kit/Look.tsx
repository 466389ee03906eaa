/** What a cook looks at, drawn by one hand: how a spoonful falls, bubbles at the moment to turn, whites on the whisk, a piece cut, a piece turned over.
 * Iron is the tool, bilberry the batter or its foam, crumb colours what is baked. Beside every picture stand its words: it tells nothing alone. */
const LOOKS = {
  "fall -2": <Fall d="M30 66c2-16 8-24 20-24s18 8 20 24z" />,
  "fall -1": <Fall d="M22 66c2-9 6-8 10-12s10-7 18-7 12 3 18 7 8 3 10 12z M44 14h12l2 14-8 8-8-8z" />,
  "fall 0": <Fall d="M12 66c6-8 16-10 38-10s32 2 38 10z M45 12h10c2 16 3 26 6 44H39c3-18 4-28 6-44z" />,
  "fall 1": <Fall d="M6 66c8-5 20-6 44-6s36 1 44 6z M47 12h6c1 18 2 30 5 48H42c3-18 4-30 5-48z" />,
  "fall 2": <Fall d="M2 66c10-3 22-3 48-3s38 0 48 3z M49 12h2.500l1.500 51h-5.500z" />,
  "bubbles early": (
    <Top
      wet={34}
      open={[]}
      closed={[
        [38, 30],
        [58, 42],
        [50, 24],
      ]}
    />
  ),
  "bubbles now": (
    <Top
      wet={22}
      open={[
        [30, 34],
        [41, 22],
        [42, 45],
        [52, 33],
        [60, 21],
        [63, 45],
        [70, 33],
        [51, 54],
      ]}
      closed={[
        [36, 52],
        [66, 54],
      ]}
    />
  ),
  "bubbles late": (
    <Top
      wet={0}
      open={[
        [28, 30],
        [34, 46],
        [42, 20],
        [44, 38],
        [52, 52],
        [54, 27],
        [62, 42],
        [66, 22],
        [72, 36],
        [38, 58],
        [64, 56],
      ]}
      closed={[]}
    />
  ),
  "peaks soft": (
    <Peak d="M14 66c4-22 18-24 28-34 6-6 6-16 12-18 8-2 13 8 6 12-3 2-6-1-5-4-4 8 0 12 8 20 9 9 19 10 23 24z" />
  ),
  "peaks stiff": <Peak d="M14 66c4-22 20-22 28-36 4-8 5-16 8-26 3 10 4 18 8 26 8 14 24 14 28 36z" />,
  "inside raw": (
    <Cut
      pores={[
        [24, 40],
        [76, 40],
      ]}
      wet
    />
  ),
  "inside just": (
    <Cut
      pores={[
        [20, 42],
        [30, 36],
        [38, 46],
        [46, 38],
        [54, 46],
        [62, 37],
        [70, 45],
        [79, 39],
        [34, 50],
        [58, 51],
      ]}
    />
  ),
  "inside dry": (
    <Cut
      pores={[
        [24, 42],
        [44, 38],
        [66, 44],
      ]}
      cracked
    />
  ),
  "beneath pale": <Disc fill="#ecd3a0" />,
  "beneath golden": <Disc fill="#cf9243" />,
  "beneath dark": <Disc fill="#86501f" />,
  "beneath burnt": <Disc fill="#33231a" />,
} as const;

export type LookKey = keyof typeof LOOKS;
type Spots = readonly (readonly [number, number])[];

/** One look. */
export function Look({ of, className = "h-20 w-full" }: { of: LookKey; className?: string }) {
  return (
    <svg viewBox="0 0 100 72" className={className} aria-hidden="true" data-look={of}>
      {LOOKS[of]}
    </svg>
  );
}

/** From a spoon: a heap that stands, or a stream that is gone at once. */
function Fall({ d }: { d: string }) {
  return (
    <>
      <path d="M30 4c10-3 30-3 40 0-4 8-10 9-20 9S34 12 30 4z" fill="var(--iron)" />
      <path d={d} fill="var(--berry)" fillOpacity="0.85" />
      <Ground />
    </>
  );
}

/** A cake from above: the wet middle, bubbles that are closed, bubbles that stay open. */
function Top({ wet, open, closed }: { wet: number; open: Spots; closed: Spots }) {
  return (
    <>
      <ellipse cx="50" cy="37" rx="44" ry="31" fill="#e6c68c" stroke="#b98a4a" strokeWidth="3" />
      {wet > 0 && <ellipse cx="50" cy="37" rx={wet} ry={wet * 0.7} fill="#f5e6c3" />}
      {closed.map(([x, y]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r="4" fill="none" stroke="#8a6a3c" strokeWidth="1.500" />
      ))}
      {open.map(([x, y]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r="3" fill="#7c5a2c" />
      ))}
    </>
  );
}

/** Whites on the whisk. */
function Peak({ d }: { d: string }) {
  return (
    <>
      <path
        d={d}
        fill="var(--berry)"
        fillOpacity="0.300"
        stroke="var(--berry)"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      <Ground />
    </>
  );
}

/** A piece cut through: its crusts, its pores, what is still wet. */
function Cut({ pores, wet = false, cracked = false }: { pores: Spots; wet?: boolean; cracked?: boolean }) {
  return (
    <>
      <path
        d="M6 46c0-12 8-20 18-20h52c10 0 18 8 18 20s-8 14-18 14H24C14 60 6 58 6 46z"
        fill="#efd9ab"
        stroke="#a9712f"
        strokeWidth="5"
      />
      {pores.map(([x, y]) => (
        <ellipse key={`${x} ${y}`} cx={x} cy={y} rx="3.500" ry="2.500" fill="#caa563" />
      ))}
      {wet && (
        <path
          d="M30 44c4-8 12-10 20-10s17 2 20 10c-4 8-12 9-20 9s-16-1-20-9z"
          fill="#fff6dd"
          stroke="#b99a5e"
          strokeWidth="1.500"
        />
      )}
      {wet && <path d="M46 53c0 6-2 8-2 13h5c0-5-1-7 1-13z" fill="#fff6dd" stroke="#b99a5e" strokeWidth="1.500" />}
      {cracked && <path d="M34 28l5 12-4 8 5 10M62 28l-4 10 5 9-3 11" fill="none" stroke="#8a6a3c" strokeWidth="2" />}
    </>
  );
}

/** The side that lay down. */
function Disc({ fill }: { fill: string }) {
  return <ellipse cx="50" cy="37" rx="44" ry="31" fill={fill} stroke="#a9824a" strokeWidth="3" />;
}

function Ground() {
  return <path d="M0 68h100" stroke="currentColor" strokeWidth="2.500" />;
}
