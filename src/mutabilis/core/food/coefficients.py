"""What one gram of an ingredient does to each balance. The ledgers add these up and the optimiser is built from the same
numbers, so that what the solver thinks is what the ledger shows."""

import math
from dataclasses import dataclass
from functools import lru_cache

from .ingredients import LIQUIDS, Ingredient

SODA_G_PER_MOL = 84.007  # NaHCO3
SOLID_G_PER_ML = 1.45  # swollen dry matter
DISSOLVED_G_PER_ML = 1.55  # sugars and salts in solution
FAT_G_PER_ML = 0.92
FAT_THINS = 0.5  # half of the fat acts as liquid; a judgement from some two dozen batters
PIECE_ACID = 0.2  # acid locked in pieces of fruit counts about a fifth
SALT_PER_SODIUM = 2.54  # NaCl 58.44 over Na 22.99
WET = 40.0  # lines with this much water and more share in the thickening of the liquid [g/100 g]
SCALDED_SET = 0.0087  # egg-equivalents per g of scalded starch: half of what boiled starch (mashed potato, by its row) holds; a judgement
_PURE_ALKALI = 0.8  # a soda fraction above this brings no acid of its own


@dataclass(frozen=True, slots=True, kw_only=True)
class PerGram:
    """Per gram of ingredient after a rest: volumes [mL], bound water [g], amounts [mmol, meq, g, mg, kcal]."""

    water: float
    bound: float
    swollen_dry: float
    free: float
    wet: float
    thick: float
    soda: float
    acid: float
    buffer: float
    setting: float
    gel: float
    flour: float
    sweet: float
    fat: float
    saturated: float
    sodium: float
    salt_taste: float
    brown: float
    protein: float
    carb: float
    fibre: float
    sugars: float
    polyols: float
    allulose: float
    kcal: float
    liquid: float
    potassium: float  # of leavenings and salt substitutes [mg]

    @property
    def flow_solid(self) -> float:
        """Share in the swollen volume Vs [mL]."""
        return self.swollen_dry + self.bound

    @property
    def flow_free(self) -> float:
        """Share in the free volume Vf [mL]."""
        return self.free - self.bound


def absorbed_share(minutes: float, t90: float) -> float:
    """How much of its final water a drinker holds after `minutes` [min], where `t90` [min] brings nine tenths.

    >>> round(absorbed_share(5, 5), 3)
    0.9
    """
    return 1.0 - math.exp(-2.303 * minutes / t90) if t90 > 0 else 1.0


def energy_kcal(i: Ingredient) -> float:
    """Energy of 100 g [kcal]: 4/4/9, fibre 2, alcohol 7, organic acids 3, allulose 0.4 (EU Regulation 1169/2011, Annex
    XIV); polyols and intense sweeteners by their own row, since erythritol is 0.2 and the others 2.4 kcal/g."""
    if i.group in ("polyol_sweetener", "intense_sweetener"):
        return i.kcal
    sugars_and_starch = max(0.0, i.carb_g - i.fibre_g - i.polyol_g - i.allulose_g)
    return (
        4 * i.protein_g + 9 * i.fat_g + 4 * sugars_and_starch + 2 * i.fibre_g + 2.4 * i.polyol_g + 0.4 * i.allulose_g
        + 7 * i.alcohol_g + 3 * i.organic_acid_g
    )  # fmt: skip


@lru_cache(maxsize=8192)
def per_gram(i: Ingredient, rest_min: float, absorption_factor: float = 1.0, scalded: float = 0.0) -> PerGram:
    """Coefficients after `rest_min` [min] (batter-science, sections 1 to 5).

    `absorption_factor` scales what the drinker takes up, 1.0 being the table; `scalded` is the share of its starch that boiling liquid
    has turned to paste, which holds (where the row itself is raw flour or meal).
    """
    water, fat = i.water_g / 100, i.fat_g / 100
    drinker = i.is_drinker
    piece = i.group == "mix_in"
    bound = i.absorption_g_per_g * absorption_factor * absorbed_share(rest_min, i.absorption_minutes) if drinker else 0.0
    fat_volume = FAT_THINS * fat / FAT_G_PER_ML
    if drinker:
        swollen, free = (1 - fat - water) / SOLID_G_PER_ML + water, fat_volume
    elif piece:
        swollen, free = 0.0, 0.0  # whole pieces neither thin nor thicken what flows round them
    else:
        swollen, free = 0.0, water + (1 - fat - water) / DISSOLVED_G_PER_ML + fat_volume
    wet = 1.0 if i.water_g >= WET and not piece else 0.0
    soda = i.soda_fraction * 1000 / SODA_G_PER_MOL
    own_acid = soda if 0 < i.soda_fraction < _PURE_ALKALI else 0.0
    ash = 0.5 if 0 < i.soda_fraction < 0.1 else i.ash_g  # the powder in self-raising flour is not the flour's own ash
    gluten = 0.0095 * i.gluten_strength if i.toughens else 0.0
    leavening = i.group == "leavener"
    return PerGram(
        water=water,
        bound=bound,
        swollen_dry=swollen,
        free=free,
        wet=wet,
        thick=i.thickening * wet,
        soda=soda,
        acid=own_acid + i.acid_meq_per_100g / 100 * (PIECE_ACID if piece else 1.0),
        buffer=min(0.08, 0.02 + 0.02 * ash) if i.is_flour else 0.0,
        setting=0.0 if i.is_gel else i.egg_equivalents_per_g + gluten + (scalded * SCALDED_SET * i.starch_g / 100 if i.is_flour else 0.0),
        gel=i.egg_equivalents_per_g if i.is_gel else 0.0,
        flour=1.0 if i.is_flour else 0.0,
        sweet=i.sweetness,
        fat=fat,
        saturated=i.sat_fat_g / 100,
        sodium=i.sodium_mg / 100,
        salt_taste=i.sodium_mg / 100 / 1000 * SALT_PER_SODIUM * (0.3 if leavening else 1.0),
        brown=i.browning,
        protein=i.protein_g / 100,
        carb=i.carb_g / 100,
        fibre=i.fibre_g / 100,
        sugars=i.sugars_g / 100,
        polyols=i.polyol_g / 100,
        allulose=i.allulose_g / 100,
        kcal=energy_kcal(i) / 100,
        liquid=1.0 if i.group in LIQUIDS else 0.0,
        potassium=i.potassium_mg / 100,
    )
