package sketch

// Temper is a set of dials, named for how it feels.
type Temper struct {
	Name  string `json:"name"`
	About string `json:"about"`
	Dials Dials  `json:"dials" tstype:"unknown"`
}

func from(low, high int) *Span { return &Span{low, high} }
func words(of string) *string  { return &of }

// Tempers are our own. To add one, add a row.
var Tempers = []Temper{
	{"steady", "Even, mostly roots and steps, on the beats.", Dials{Full: from(45, 55), Lean: from(70, 100), Long: from(0, 20), Leaps: from(0, 12), Anchor: from(100, 100), Form: words("AAAB"), Gate: from(75, 90), Velocity: from(86, 104)}},
	{"walking", "A note on nearly every eighth of sixteenths, or every quarter of eighths, by step, into each chord.", Dials{Full: from(46, 50), Lean: from(100, 100), Leaps: from(4, 14), Anchor: from(90, 100), Gate: from(82, 96), Velocity: from(78, 98)}},
	{"restless", "Never still: many short notes, many leaps.", Dials{Full: from(75, 95), Lean: from(-20, 20), Leaps: from(45, 65), Anchor: from(50, 80), Form: words("ABAC"), Gate: from(30, 55), Velocity: from(60, 120)}},
	{"sparse", "A few notes with room round them.", Dials{Full: from(14, 26), Lean: from(10, 60), Long: from(0, 25), Leaps: from(20, 45), Anchor: from(90, 100), Form: words("AABA"), Gate: from(60, 95), Velocity: from(84, 110)}},
	{"sidestepping", "Short notes between the beats; only the first is on one.", Dials{Full: from(38, 52), Lean: from(-100, -70), Leaps: from(12, 30), Anchor: from(80, 100), Form: words("AAAB"), Gate: from(35, 60), Velocity: from(76, 108)}},
	{"singing", "Long notes in an arch, by step.", Dials{Full: from(32, 46), Lean: from(20, 60), Long: from(75, 100), Leaps: from(5, 16), Anchor: from(80, 100), Contour: words("arch"), Gate: from(88, 100), Velocity: from(72, 96)}},
	{"leaning", "Passing notes on the strong beats, which give way by step.", Dials{Full: from(45, 60), Lean: from(40, 80), Long: from(20, 50), Leaps: from(6, 18), Anchor: from(0, 40), Form: words("ABAC"), Gate: from(80, 98), Velocity: from(74, 100)}},
	{"striding", "Wide steps up and down the chord.", Dials{Full: from(40, 55), Lean: from(30, 70), Leaps: from(65, 85), Anchor: from(90, 100), Form: words("AABA"), Gate: from(55, 80), Velocity: from(80, 112)}},
	{"climbing", "Goes up and up, and begins again.", Dials{Full: from(50, 70), Lean: from(10, 50), Leaps: from(5, 20), Anchor: from(70, 100), Contour: words("rise"), Gate: from(60, 85), Velocity: from(72, 108)}},
	{"sinking", "Comes down to the ground, held longer and longer.", Dials{Full: from(35, 50), Lean: from(20, 60), Long: from(40, 70), Leaps: from(5, 20), Anchor: from(70, 100), Contour: words("fall"), Gate: from(75, 98), Velocity: from(70, 100)}},
	{"calling", "A phrase, the same once more, and an answer.", Dials{Full: from(38, 56), Lean: from(0, 50), Long: from(10, 40), Leaps: from(10, 28), Anchor: from(80, 100), Form: words("AABA"), Gate: from(60, 90), Velocity: from(76, 108)}},
	{"sliding", "Half of it slides, behind the beat.", Dials{Full: from(36, 52), Lean: from(-10, 40), Long: from(40, 80), Leaps: from(20, 40), Anchor: from(80, 100), Form: words("AABA"), Gate: from(85, 100), Velocity: from(80, 104), Late: from(6, 14), Glides: from(45, 65)}},
}
