"""What no check covers: said in the check stage, on every sheet, every calculation, and in the README."""

NOT_CHECKED = (
    "Sideways resistance of the building: bracing, shear walls, hold-downs, earthquake.",
    "Wind uplift of roofs where no wind speed is typed; of decks, their nails and ladders of gable overhangs, of tails of hips and of roofs steeper than 45 degrees bent upward, what pulls at collar ties of such (rafters with their tails, hips, valleys, ridge beams and purlins are checked under pressures from memory: up to 7 degrees those of ASCE 7-16, chapter 30, on steeper roofs those of IRC Table R301.2(2); near edges of these ASCE 7-16 asks for more), of what ties "
    "walls to what is below them (what lifts there is told); ice along eaves where it is not asked for, and what it brings to hips there and lifts at heads of rafters and hung ends of jacks, snow drifted by parapets, chimneys and buildings nearby; roofs on "
    "beams as open ones (wind below them is taken as in a partly enclosed building); where ground "
    "snow is taken as roof snow, unbalanced, drifting and sliding snow.",
    "Roofs of planes: rafters that nothing ties (told); what wind and what else is not alike on both sides pushes on hips that a ring of plates "
    "holds together; seats of hips, valleys and ends of ridge beams and what hangs these on one another, hips on outer corners of walls, what pulls jacks out of their nails, how ledgers at taller walls bend the studs behind them, what wind lifts at them and at hangers of rafters (ties for it are told) and how far hangers of a list of one's own bend to a slope (hips and valleys deeper than the rafters are cut out "
    "deeper than the quarter of IRC R802.7.1, those of veneer lumber by leave of its maker alone; shear there is checked); what rafters cut for an opening push sideways on its "
    "headers; where a roof runs on over another, what nails its valley boards to the deck below, holds its jacks "
    "down there and together, and snow that slides together in its valleys; studs and plates of dormers, what holds the feet of a gablet's first rafters together, snow that drifts against them, "
    "what holds their face against wind; gables whose top dips or steps; the strength of ladders under gable overhangs, what ends of lookouts carry of the roof inside, what nails the boards between lookouts to frames of trusses; what ties rafters to purlins and these to their posts along the "
    "slope; what nails sprockets to tails, snow that lies deeper on them, and tapered strips to rafters; where a slope breaks, what wind pushes sideways on the knee wall's head; what struts push sideways on purlins and on walls (told where it is uneven), their nails; collar ties under gravity (left out of the statics), what wind lifts at rafters cut for openings and brings to those beside them, and how rafters bend where those hold them.",
    "Trusses: what their diagonal braces (they are laid along braced webs alone) and those of gable frames hold, what nails plies of webs and top chords together, moments that plates take at heels, how top chords "
    "of jacks are nailed to their girders, what fastens the heads of hips and rafters of hip ends to the trusses there, and snow blown onto such an end beyond what lies evenly, what holds valley trusses down on the deck and the trusses below, what fastens the wedges under top chords that bear and the boards on bottom chords below the plates to gable walls, by what weights are hung, "
    "300 lb on a chord where that is not asked for, how far inside walls on which they bear give way, live load on some panels of their bottom chords alone, lifting and setting them up; joints rest on equations written from memory.",
    "Connections other than bearings, anchor bolts, hangers, caps, bases, plies nailed together, ledgers of roofs and of decks outdoors: "
    "nails, straps; of beams splices, hold-downs, the ends of steel ones at the side of others, and what turns a deep one "
    "over; other ledgers.",
    "What fastens the posts of guards (their pull is told), their rails; handrails of stairs, how stringers are hung; what frost does to the piers of decks.",
    "Slabs above ground: sag beyond the least thickness of a table, openings near columns, slabs that carry both ways, what ties "
    "them to the walls they lie on.",
    "Walls of block, brick or concrete that stand on foundations: what presses, bends and cracks them, lintels over their openings, plates "
    "on them under joists and rafters with their bolts (IRC R606).",
    "Pieces of decks that lie over one bay alone (counted on the sheets of decks): span ratings take panels to run on over two or more.",
    "To what hangers are nailed: packing at steel beams, the far side of a wall's rim board.",
    "Nails of blocking and deck that take the push of earth into the floor.",
    "Columns of concrete; cap plates and base plates of steel ones, the bolts of bases, loads off the middle; blocking on decks "
    "under columns and walls that stand on joists.",
    "Settlement, slope stability, ground water under footings, durability, fire.",
    "What live load on some spans of joists that run on brings through a wall to the joists on whose deck it stands.",
    "Prices, caps, bases, plates and gussets of trusses rest on made-up lists; so do hangers, where no list of one's own was read.",
    "Blocks under columns and under single loads that stand on I-joists.",
)
SHORT = "Not checked: sideways resistance (bracing, shear walls, hold-downs, earthquake), uplift where no wind is typed, connections, settlement."
EMPTY = (
    "No findings: everything made so far bears on something, fits and carries what presses on it.\n"
    "Not checked: bracing and earthquake, uplift where no wind is typed, connections, settlement (see 6 Check)."
)
"""What the window says where there are no findings."""
