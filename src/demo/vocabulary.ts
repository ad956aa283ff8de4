/** How the products of a department vary. */
export type Ware = "rope" | "fitting" | "paint" | "garment" | "lamp" | "galley" | "paper";

/** A department of the shop: what its shelves hold, singular and plural, and the forms that those come in. */
export interface Department {
  readonly name: string;
  readonly ware: Ware;
  readonly shelves: readonly (readonly [one: string, many: string])[];
  readonly forms: readonly string[];
}

export const DEPARTMENTS: readonly Department[] = [
  {
    name: "Rope and twine",
    ware: "rope",
    forms: ["three-strand", "braided", "low-stretch", "pre-stretched", "tarred"],
    shelves: [
      ["mooring line", "mooring lines"],
      ["halyard", "halyards"],
      ["sheet rope", "sheet ropes"],
      ["anchor warp", "anchor warps"],
      ["whipping twine", "whipping twines"],
      ["shock cord", "shock cords"],
      ["fender line", "fender lines"],
    ],
  },
  {
    name: "Deck fittings",
    ware: "fitting",
    forms: ["folding", "horn", "low-profile", "heavy-duty", "open-base"],
    shelves: [
      ["deck cleat", "deck cleats"],
      ["bow roller", "bow rollers"],
      ["fairlead", "fairleads"],
      ["hatch hinge", "hatch hinges"],
      ["lifting handle", "lifting handles"],
      ["rowlock", "rowlocks"],
      ["ventilator cowl", "ventilator cowls"],
    ],
  },
  {
    name: "Anchoring",
    ware: "fitting",
    forms: ["galvanised", "stockless", "folding", "swivelling", "hinged"],
    shelves: [
      ["anchor", "anchors"],
      ["chain hook", "chain hooks"],
      ["anchor swivel", "anchor swivels"],
      ["windlass handle", "windlass handles"],
      ["mooring buoy", "mooring buoys"],
      ["chain stopper", "chain stoppers"],
      ["mooring ring", "mooring rings"],
    ],
  },
  {
    name: "Rigging",
    ware: "fitting",
    forms: ["ball-bearing", "single", "double", "fixed-eye", "snap"],
    shelves: [
      ["block", "blocks"],
      ["snap shackle", "snap shackles"],
      ["turnbuckle", "turnbuckles"],
      ["thimble", "thimbles"],
      ["cam cleat", "cam cleats"],
      ["sail track", "sail tracks"],
      ["mast step", "mast steps"],
    ],
  },
  {
    name: "Galley and cabin",
    ware: "galley",
    forms: ["nesting", "non-slip", "gimballed", "folding", "wall-mounted"],
    shelves: [
      ["kettle", "kettles"],
      ["cup hook", "cup hooks"],
      ["cooking pot", "cooking pots"],
      ["plate rack", "plate racks"],
      ["oak bucket", "oak buckets"],
      ["cutlery tray", "cutlery trays"],
      ["cabin clock", "cabin clocks"],
    ],
  },
  {
    name: "Lighting",
    ware: "lamp",
    forms: ["oil-burning", "swinging", "flush", "clip-on", "dimmable"],
    shelves: [
      ["anchor lamp", "anchor lamps"],
      ["berth light", "berth lights"],
      ["navigation light", "navigation lights"],
      ["chart light", "chart lights"],
      ["torch", "torches"],
      ["bulkhead lamp", "bulkhead lamps"],
      ["gimbal lantern", "gimbal lanterns"],
    ],
  },
  {
    name: "Paint and varnish",
    ware: "paint",
    forms: ["high-gloss", "satin", "quick-drying", "solvent-free", "two-part"],
    shelves: [
      ["topside enamel", "topside enamels"],
      ["antifouling", "antifoulings"],
      ["bilge paint", "bilge paints"],
      ["spar varnish", "spar varnishes"],
      ["deck paint", "deck paints"],
      ["primer", "primers"],
      ["teak oil", "teak oils"],
    ],
  },
  {
    name: "Portholes and hatches",
    ware: "fitting",
    forms: ["opening", "fixed", "storm-glass", "flush-mounted", "cast"],
    shelves: [
      ["porthole", "portholes"],
      ["deadlight", "deadlights"],
      ["deck prism", "deck prisms"],
      ["inspection hatch", "inspection hatches"],
      ["locker lid", "locker lids"],
      ["companionway latch", "companionway latches"],
      ["flush ring", "flush rings"],
    ],
  },
  {
    name: "Clothing",
    ware: "garment",
    forms: ["waxed", "lined", "quick-drying", "heavyweight", "hooded"],
    shelves: [
      ["smock", "smocks"],
      ["oilskin jacket", "oilskin jackets"],
      ["deck shoe", "deck shoes"],
      ["watch cap", "watch caps"],
      ["sailing glove", "sailing gloves"],
      ["guernsey", "guernseys"],
      ["sou’wester", "sou’westers"],
    ],
  },
  {
    name: "Safety",
    ware: "garment",
    forms: ["auto-inflating", "offshore", "child-sized", "compact", "reflective"],
    shelves: [
      ["lifejacket", "lifejackets"],
      ["lifebuoy", "lifebuoys"],
      ["harness", "harnesses"],
      ["heaving line", "heaving lines"],
      ["fog horn", "fog horns"],
      ["radar reflector", "radar reflectors"],
      ["rescue sling", "rescue slings"],
    ],
  },
  {
    name: "Charts and books",
    ware: "paper",
    forms: ["laminated", "folded", "spiral-bound", "pocket", "annotated"],
    shelves: [
      ["harbour chart", "harbour charts"],
      ["pilot book", "pilot books"],
      ["tide table", "tide tables"],
      ["log book", "log books"],
      ["knot manual", "knot manuals"],
      ["star atlas", "star atlases"],
      ["passage planner", "passage planners"],
    ],
  },
  {
    name: "Tools and care",
    ware: "fitting",
    forms: ["hollow", "offset", "spring-loaded", "wooden-handled", "long-reach"],
    shelves: [
      ["splicing fid", "splicing fids"],
      ["sailmaker’s palm", "sailmaker’s palms"],
      ["marlinspike", "marlinspikes"],
      ["caulking iron", "caulking irons"],
      ["deck brush", "deck brushes"],
      ["rigging knife", "rigging knives"],
      ["bilge pump", "bilge pumps"],
    ],
  },
];

export const SERIES = [
  "Old Harbour",
  "Skerry",
  "Fjällräv",
  "Quiet Water",
  "Ærø",
  "Lantern Quay",
  "Number Four",
  "Öland",
  "Saltmarsh",
  "Harbourmaster",
  "Łódka",
  "North Pier",
];

export const MATERIALS: Record<Ware, readonly string[]> = {
  rope: ["polyester", "nylon", "hemp", "manila", "polypropylene"],
  fitting: ["bronze", "brass", "stainless steel", "galvanised steel", "aluminium"],
  paint: ["alkyd", "polyurethane", "tung oil"],
  garment: ["cotton", "wool", "oilcloth", "nylon"],
  lamp: ["brass", "copper", "stainless steel"],
  galley: ["enamel", "copper", "oak", "stainless steel"],
  paper: ["paper", "waterproof paper"],
};

export const FINISHES = ["polished", "satin", "antique", "natural", "chromed", "lacquered"];
export const COLOURS = ["navy", "white", "black", "red", "buff", "bottle green", "signal yellow", "natural"];
export const FEATURES = [
  "with captive pin",
  "with four countersunk fixings",
  "with storm glass",
  "with shut-off plate",
  "with backing plate",
  "for boats up to 9.5 m",
  "for boats up to 14 m",
  "(pair)",
  "port and starboard",
];

export const POST_SUBJECTS = [
  "Splicing three-strand rope",
  "Reading a tide table",
  "Choosing a mooring line",
  "Varnishing a mast",
  "Antifouling by waters",
  "Rigging a preventer",
  "Whipping a rope’s end",
  "Caulking a teak deck",
  "Laying up for winter",
  "Sizing an anchor",
  "Bleeding a bilge pump",
  "Setting a storm jib",
  "Lighting an oil lamp",
  "Bedding deck fittings",
  "Checking a lifejacket",
  "Folding a chart",
  "Fitting a cleat",
  "Cooking at thirty degrees",
  "Reeving a block",
  "Coiling a halyard",
];
export const POST_ANGLES = [
  "step by step",
  "what holds and what does not",
  "for a boat under nine metres",
  "on a wet day",
  "without special tools",
  "the mistakes that cost a season",
  "as our riggers do it",
  "in one afternoon",
  "a short history",
  "what the load tables leave out",
  "before the first cruise",
  "questions from the counter",
];
export const POST_SERIES = ["Ropework", "Maintenance", "Seamanship", "From the loft", "Cruising"];
export const AUTHORS = ["Marit Holm", "Tobias Fennick", "Agnes Dray", "Jory Pascoe", "Łucja Źróbek"];

export const SENTENCES = [
  "Work slowly and keep the lay of the rope tight in your hand.",
  "A fitting that moves under load has already begun to fail.",
  "We cut every length in our loft and whip both ends before it leaves.",
  "Salt crystals act like sandpaper inside a fibre, so rinse with fresh water.",
  "Nobody ever regretted one more turn on a cleat.",
  "The load table on the box is for new rope in dry air.",
  "Measure twice, and write the figure on the bulkhead where you will find it.",
  "If the wind goes round in the night you will want more scope, not less.",
  "Bronze goes green, brass goes pink, and stainless steel gives no warning.",
  "Take the strain off before you look for the reason.",
  "Our riggers keep a spare in the left pocket, and so should you.",
  "A thin coat that dries is worth three that do not.",
  "Lay the parts out in the order in which they come off.",
  "What looks tidy from the pontoon may foul in a seaway.",
  "Ask the harbourmaster; the chart was drawn before the dredging.",
  "Leave a tail of at least sixteen diameters.",
  "On a cold morning the sealant wants twice the time that it says.",
  "The old way takes longer and lasts for years.",
  "Check it again at the end of the first day under sail.",
  "When in doubt, go one size up and sleep well.",
];
