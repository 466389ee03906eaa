import { useState } from "react";
import { chime, setSound, setVolume, soundOn, volume } from "../../app/chime";
import { keysOn, setKeys } from "../../app/keys";
import { storedTheme, type Theme, wear } from "../../app/theme";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { Tick } from "../../kit/Tick";

/** What is set for this screen alone: its light, the sound of its clocks, its single keys. */
export function ThisDevice() {
  const [theme, setTheme] = useState<Theme>(storedTheme);
  const [sounds, setSounds] = useState(soundOn);
  const [loud, setLoud] = useState(volume);
  const [keys, setOwnKeys] = useState(keysOn);
  return (
    <section aria-label="This device" className="grid content-start gap-3">
      <h2 className="border-b border-base-300 pb-1 text-lg font-bold">This device</h2>
      <Choose
        label="Light of the screen"
        stacked
        options={[
          ["system", "as the system"],
          ["day", "day"],
          ["dawn", "before dawn"],
        ]}
        value={theme}
        onChange={(next) => {
          wear(next);
          setTheme(next);
        }}
      />
      <Tick
        label="clocks sound"
        on={sounds}
        onChange={(on) => {
          setSound(on);
          setSounds(on);
        }}
      />
      <label className="flex flex-wrap items-center gap-3">
        how loud
        <input
          type="range"
          min={5}
          max={100}
          step={5}
          value={Math.round(100 * loud)}
          className="h-11 w-48 accent-[var(--color-primary)]"
          onChange={(event) => {
            setVolume(Number(event.target.value) / 100);
            setLoud(Number(event.target.value) / 100);
          }}
        />
      </label>
      <p className="flex flex-wrap gap-2">
        <Button onClick={() => chime(false, true)}>Try the sound of a clock</Button>
        <Button onClick={() => chime(true, true)}>Try “off the heat”</Button>
      </p>
      <Tick
        label="single keys act (f, n, u …); those with Ctrl always do"
        on={keys}
        onChange={(on) => {
          setKeys(on);
          setOwnKeys(on);
        }}
      />
    </section>
  );
}
