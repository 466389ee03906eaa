import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { learnedQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import { day } from "../../pure/format";
import { funnel } from "../../pure/trend";

type Belief = Answered<"Belief">;
const [WIDE, HIGH] = [420, 110];

/** What this kitchen has learned at the stove: what was thought, what each batch told, what is thought now; any of it can be forgotten. */
export function LearnedList() {
  const learned = useQuery(learnedQuery);
  if (learned.isError) return <p role="alert">{learned.error.message}</p>;
  if (!learned.data) return <p>Looking…</p>;
  if (learned.data.length === 0)
    return (
      <p className="max-w-xl text-lg">
        Nothing is learned yet. A bowl that is judged by plate or test piece teaches how much its flours drink here;
        loads that are turned and taken off teach how fast a surface is.
      </p>
    );
  return (
    <ul className="grid gap-8 xl:grid-cols-2">
      {learned.data.map((one) => (
        <One key={`${one.kind} ${one.subject}`} one={one} />
      ))}
    </ul>
  );
}

function One({ one }: { one: Belief }) {
  const { places } = useNumbers();
  const tell = useTell();
  const forget = useWrite(
    (back: boolean) => got(api.POST("/api/learned/forget", { body: { kind: one.kind, subject: one.subject, back } })),
    { changes: "learned" },
  );
  const most = one.unit === "cm" ? 1 : 0;
  const said = (f: Belief["now"]) => `${places(f.value, most)} ± ${places(f.doubt, most)} ${one.unit}`;
  return (
    <li className="min-w-0">
      <header className="flex flex-wrap items-center gap-3 border-b border-base-300 pb-1">
        <h2 className="min-w-0 flex-1 text-lg font-bold">{one.words}</h2>
        <Button
          onClick={() => {
            forget.mutate(false);
            tell(`Forgotten: ${one.name}.`, () => forget.mutate(true));
          }}
        >
          Forget
        </Button>
      </header>
      <p className="mt-1">
        <b className="figure text-2xl">{said(one.now)}</b> <span>now; at first {said(one.first)}.</span>
      </p>
      {one.new_bag && <p className="font-semibold">Another bag is in use since: less sure until it is looked at.</p>}
      <Funnel one={one} />
      <details className="text-sm">
        <summary className="min-h-9 cursor-pointer content-center underline underline-offset-4">batch by batch</summary>
        <table>
          <thead>
            <tr className="text-left">
              <th className="pr-6 font-normal">batch of</th>
              <th className="pr-6 font-normal">told</th>
              <th className="pr-6 font-normal">is thought since</th>
              <th className="font-normal">bag</th>
            </tr>
          </thead>
          <tbody>
            {one.told.map((t, n) => (
              <tr key={n}>
                <td className="pr-6">
                  {t.batch ? (
                    <Link className="underline underline-offset-4" to={`/journal/${t.batch}`}>
                      {t.at ? day(t.at) : "a batch"}
                    </Link>
                  ) : (
                    t.at && day(t.at)
                  )}
                </td>
                <td className="figure pr-6">{t.seen ? said(t.seen) : ""}</td>
                <td className="figure pr-6">{said(t.then)}</td>
                <td>{t.pack}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
      {forget.isError && <p role="alert">{forget.error.message}</p>}
    </li>
  );
}

/** What is thought, as a funnel that each batch narrows; a dot for what a batch told. */
function Funnel({ one }: { one: Belief }) {
  const beliefs = [one.first, ...one.told.map((t) => t.then), ...(one.new_bag ? [one.now] : [])];
  const f = funnel(
    beliefs,
    one.told.map((t) => t.seen),
    WIDE,
    HIGH,
  );
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="mt-1 h-auto w-full max-w-xl" aria-hidden="true">
      <path d={f.wall} fill="var(--color-primary)" fillOpacity="0.180" />
      <path
        d={`M${f.middle.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("L")}`}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth="2.500"
      />
      {f.seen.map(
        (s, n) =>
          s && (
            <g key={n}>
              <path d={`M${s.x.toFixed(1)} ${s.top.toFixed(1)}V${s.bottom.toFixed(1)}`} stroke="var(--iron)" />
              <circle cx={s.x} cy={s.y} r="4.500" fill="var(--color-base-100)" stroke="var(--iron)" strokeWidth="2" />
            </g>
          ),
      )}
    </svg>
  );
}
