/** The trade's words in plain ones, by the word as it stands on the screen. */
export const GLOSSARY: readonly { readonly term: string; readonly also?: readonly string[]; readonly words: string }[] =
  [
    {
      term: "ppm",
      words:
        "Parts per million: what a meter makes of how well water conducts. Each meter has a scale of its own; without it the number says little.",
    },
    {
      term: "Scale",
      also: ["Scale of the meter", "Your meter’s ppm is", "The limit is on the scale"],
      words:
        "How a meter turns conductivity into ppm: NaCl, 442 or KCl, or plain µS/cm. The same water reads 1.4 times as much on 442 as on NaCl.",
    },
    { term: "µS/cm", words: "Conductivity itself, at 25 °C: what every meter really measures." },
    {
      term: "TDS",
      words:
        "Total dissolved solids: what would be left if the water dried. A hand meter guesses it from conductivity.",
    },
    { term: "Feed", also: ["Tap water"], words: "The water that goes into the rig, as it comes from the tap." },
    { term: "Output", words: "What comes out behind the last beads: this is what dries on the glass." },
    { term: "After RO", words: "Behind the membrane and before the beads: what the beads still have to hold." },
    {
      term: "Resin",
      also: ["Resin in it", "Resin put in"],
      words:
        "Beads that hold the salts of the water until they are full. Mixed bed: both kinds of beads stirred together.",
    },
    { term: "Mixed bed", words: "Beads for both halves of a salt, stirred together in one vessel." },
    { term: "Charge", words: "One filling of one vessel, from the day it is filled to the day it is changed." },
    { term: "Part-used", words: "A charge that was taken over when some of it was gone." },
    { term: "Limit", words: "The output at which the resin is to be changed." },
    { term: "Watch from", words: "The output from which the front is near: read before each job." },
    {
      term: "Stop at",
      also: ["Stop point"],
      words:
        "The output at which nothing more is to be done with it. Between limit and stop point: finish today, and rinse longer.",
    },
    {
      term: "Front",
      words:
        "The place in the beads up to which they are taken. It creeps along the flow; when it comes out, the output rises.",
    },
    {
      term: "Capacity",
      also: ["Your own capacity"],
      words: "How much salt a litre of beads holds, in equivalents: eq/L. Your own is what your ended charges held.",
    },
    {
      term: "RO",
      also: ["Before the resin"],
      words:
        "Reverse osmosis: a membrane that holds back 95 % and more of the salts, so that the beads last many times as long. It sends part of the water to the drain.",
    },
    { term: "Carbon dioxide", words: "A gas in most tap water. It loads the beads like a salt and no meter shows it." },
    {
      term: "Silica",
      words: "Dissolved sand. No meter shows it; it goes through first, and it stays on glass as haze.",
    },
    {
      term: "Alkalinity",
      words: "How much acid the water can take up; with the pH it tells how much carbon dioxide is in it.",
    },
    {
      term: "Trade constant",
      words: "A rule of thumb: one number divided by the ppm gives gallons from a cubic foot of resin.",
    },
    { term: "Bypass share", words: "Water that goes round the beads: a bad seal, a vessel on its side." },
    { term: "Uneven flow", words: "How unevenly the water goes through the bed: it smears the front." },
    { term: "Packing", words: "How tightly the beads lie. Poured only, there is less in the vessel than it holds." },
    { term: "Contact time", words: "Seconds that the water spends in the room of the beads." },
    { term: "Bed volumes an hour", words: "How many times an hour the room of the beads is filled anew." },
    {
      term: "Lead and lag",
      words:
        "Two vessels in a row: the second catches what the first lets through. Once the lead is spent it is refilled and goes last: that is a rotation.",
    },
    { term: "Rejection", also: ["The membrane holds back"], words: "Share of the salts that a membrane holds back." },
    {
      term: "Creep",
      words: "What comes through a membrane that has stood still: the first minute carries many times the usual.",
    },
    { term: "Equivalents", words: "Salts counted by their charges, as beads count them: eq is a thousand meq." },
    {
      term: "Compensated",
      also: ["Corrects to 25 °C by itself"],
      words: "A meter that corrects for the water’s temperature.",
    },
    {
      term: "Standard solution",
      words: "Water of known conductivity, to check a meter with: most bottles are 1413 µS/cm.",
    },
    {
      term: "Riser",
      words: "The tube in the middle of a tank, with a sieve at its foot. Beads in it end on the glass.",
    },
    {
      term: "Log, add and keep",
      words:
        "Log writes down what was read at a rig. Add begins something new. Keep holds on to what you typed: it is on this device at once, and can be taken back.",
    },
    { term: "Bag", words: "Resin as it is bought. Opened it dries out and takes up carbon dioxide: date it." },
  ];

const normal = (words: string) => words.toLowerCase().replace(/,.*$/, "").trim();
const byWord = new Map(
  GLOSSARY.flatMap(({ term, also = [], words }) =>
    [term, ...also].map((each) => [normal(each), { term, words }] as const),
  ),
);

/** What a label means, where it is a word of the trade; its unit after a comma does not count. @example meaningOf("Output, ppm")?.term // "Output" */
export const meaningOf = (label: string) => byWord.get(normal(label));
