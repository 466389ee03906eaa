import { useEffect } from "react";
import { NavLink, useParams } from "react-router";
import { Copies } from "./Copies";
import { LearnedList } from "./LearnedList";
import { OwnDiets } from "./OwnDiets";
import { ProfileForm } from "./Profile";
import { Surfaces } from "./Surfaces";
import { WordList } from "./Words";

/** The Kitchen: how it measures and which schools it follows, and the diets that it made itself. */
export default function Kitchen() {
  const { part } = useParams();
  useEffect(() => {
    document.title = "Kitchen · Mutabilis";
  }, []);
  const tab = ({ isActive }: { isActive: boolean }) =>
    `flex min-h-11 items-center border-b-4 px-2 ${isActive ? "border-primary font-semibold" : "border-transparent"}`;
  return (
    <main className="mx-auto max-w-[70rem] px-4 pt-3 pb-10 sm:px-6">
      <header className="mb-4 flex flex-wrap items-center gap-x-6">
        <h1 className="text-2xl font-bold">Kitchen</h1>
        <nav aria-label="Parts of the kitchen" className="flex flex-wrap gap-2">
          <NavLink end to="/kitchen" className={tab}>
            Measures and rules
          </NavLink>
          <NavLink to="/kitchen/diets" className={tab}>
            Own diets
          </NavLink>
          <NavLink to="/kitchen/surfaces" className={tab}>
            Surfaces
          </NavLink>
          <NavLink to="/kitchen/learned" className={tab}>
            Learned
          </NavLink>
          <NavLink to="/kitchen/copies" className={tab}>
            Copies
          </NavLink>
        </nav>
      </header>
      {part === "diets" ? (
        <OwnDiets />
      ) : part === "surfaces" ? (
        <Surfaces />
      ) : part === "learned" ? (
        <>
          <LearnedList />
          <WordList />
        </>
      ) : part === "copies" ? (
        <Copies />
      ) : (
        <ProfileForm />
      )}
    </main>
  );
}
