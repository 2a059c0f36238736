package sketch

// FaultsOf tells what a sketch misses of what its dials were drawn as.
func FaultsOf(s Scene, r *Request, m *Sketch) [10]int {
	dials, _ := r.dials()
	g, _ := survey(s, r)
	_ = dials.fit(g)
	d := dials.draw(&luck{uint64(m.Seed)})
	return g.tuneOf(m.Steps).faults(&d, g.parts(d.form))
}
