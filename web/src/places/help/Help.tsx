import { useEffect } from "react";
import { KEYS } from "../../app/keys";

/** Every term of the trade that stands on a screen, in plain words. */
const TERMS: readonly (readonly [string, string])[] = [
  [
    "Hydration",
    "All the water in the batter, whoever brings it, for 100 g of flour. Milk is nine tenths water, an egg three quarters, banana as much.",
  ],
  [
    "Flow",
    "How far 60 mL run on a cold, level plate. A griddle cake wants about 11 to 15 cm; a crêpe runs on until the pan is full.",
  ],
  [
    "Hold back",
    "Flours drink differently from bag to bag. A part of the liquid stays in a cup until the bowl was judged, since it is easily added and never taken out.",
  ],
  [
    "Lift",
    "The gas that powder, soda, foam or yeast give, in millilitres for 100 g of batter; and how much of it is left when the last piece is poured.",
  ],
  [
    "Acid and alkali",
    "What buttermilk, lemon or brown sugar bring, against soda. Where soda wins it tastes of soap, where acid wins it is sour.",
  ],
  [
    "Neutralising value",
    "How many grams of soda 100 g of an acid salt turn to gas. It decides how much powder stands in for soda.",
  ],
  [
    "Set",
    "What holds a piece together when it is turned: egg, gluten, starch, gels. Told in eggs for 100 g of batter, so that a flax gel can be weighed against an egg.",
  ],
  [
    "Baker's percentage",
    "A thing's weight for 100 g of flour: salt at 1.5, butter at 20. It says at once whether a recipe is rich or lean.",
  ],
  [
    "Net carbohydrate",
    "Carbohydrate without fibre and without polyols. Which of them count is a setting of the Kitchen; guests with diabetes follow their clinician.",
  ],
  [
    "Browning",
    "What sugars, milk and alkali do to the crust at a heat. More of them, and the heat goes down a little.",
  ],
  [
    "Not confirmed",
    "Nobody has yet said that it fits: a pack was not read, a word not known. It is never served as if it fitted; read the pack, and it is settled.",
  ],
  [
    "The window of a rest",
    "From when the flour has drunk its fill to when the lift goes. Inside it every minute is good.",
  ],
  [
    "Allergy, intolerance, choice",
    "What would harm is kept apart on every surface, what is chosen only in the batter. Where nobody says how bad it is, an allergy is meant.",
  ],
  [
    "A surface that has met",
    "Wheat that was baked in an iron stays in it. Whoever may not meet wheat gets nothing from it any more; a plate can be scraped and washed.",
  ],
  [
    "Signs",
    "What speaks for a cause: figures from the scale, the clock and the thermometer. One strong sign is worth more than three faults that fit.",
  ],
];

/** Help: what the places are for, the terms of the trade in plain words, and the keys. */
export default function Help() {
  useEffect(() => {
    document.title = "Help · Mutabilis";
  }, []);
  return (
    <main className="mx-auto max-w-[60rem] px-4 pt-3 pb-10 sm:px-6">
      <h1 className="text-2xl font-bold">Help</h1>
      <p className="mt-2 max-w-3xl text-lg">
        Paste a recipe. Say who cannot eat what. Get a batter that still works, with its water, lift, set, sweetness,
        fat and salt in balance; then make it, one thing at a time.
      </p>
      <section aria-label="The places" className="mt-6">
        <h2 className="border-b border-base-300 pb-1 text-xl font-bold">The places</h2>
        <dl className="mt-2 grid gap-x-8 gap-y-2 sm:grid-cols-[8rem_1fr]">
          {(
            [
              ["Bench", "Adapt a batter: what you have on the left, what you will make on the right."],
              ["Book", "Every batter with its family: where a version came from, for whom, and how it came out."],
              ["Larder", "What each ingredient does, what is in, your own packs and cups, bags of dry mix."],
              ["Stove", "Make it: weigh out, mix, judge, rest, cook. Readable at two metres."],
              [
                "Morning",
                "A whole breakfast: who comes, who gets what, what begins when, and what to do when it goes otherwise.",
              ],
              ["Journal", "What was made, why it came out so, and the one thing to change next time."],
              ["Kitchen", "Your measures, your surfaces, the rules you follow, and what was learned here."],
            ] as const
          ).map(([name, words]) => (
            <div key={name} className="contents">
              <dt className="font-bold">{name}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      </section>
      <section aria-label="Terms" className="mt-6">
        <h2 className="border-b border-base-300 pb-1 text-xl font-bold">Terms</h2>
        <dl className="mt-2 grid gap-x-8 gap-y-3 md:grid-cols-2">
          {TERMS.map(([term, words]) => (
            <div key={term} id={idOf(term)}>
              <dt className="font-bold">{term}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      </section>
      <section aria-label="Keys" className="mt-6">
        <h2 className="border-b border-base-300 pb-1 text-xl font-bold">Keys</h2>
        <p className="mt-1">Single keys act while nothing is being typed; they can be switched off in the Kitchen.</p>
        <ul className="mt-2 grid gap-x-8 sm:grid-cols-2">
          {KEYS.map((k) => (
            <li key={`${k.keys} ${k.does}`} className="flex gap-3 border-b border-base-300/50 py-1">
              <kbd className="w-16 shrink-0 font-bold">{k.keys}</kbd>
              <span className="flex-1">{k.does}</span>
              <span className="text-sm opacity-85">{k.where}</span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Care" className="mt-6">
        <h2 className="border-b border-base-300 pb-1 text-xl font-bold">Care</h2>
        <p className="mt-1 max-w-3xl">
          A verdict never replaces a pack's own label, a food-safety rule or a clinician. Raw flour and raw egg are not
          eaten; keeping and heat are decided by the local code.
        </p>
      </section>
    </main>
  );
}

function idOf(term: string): string {
  return term.toLowerCase().replaceAll(/[^a-z]+/g, "-");
}
