package record

import "time"

// stages returns when a coat reaches each of its stages, by the slab as it was.
func (i *Issue) stages(c *Coat, d *CoatDay, readings []Reading) []Reached {
	out := make([]Reached, 0, len(c.Stages))
	for _, p := range c.Stages {
		out = append(out, Reached{Stage: p.Stage, Name: p.Name, Promised: p.At})
	}
	if d.Done == nil || d.Begun == nil {
		return out
	}
	early, late := i.slab(c, *d.Begun, readings), i.slab(c, *d.Done, readings)
	for n := range out {
		s := &out[n]
		for _, stage := range c.Product.Stages() {
			if stage.Key != s.Stage {
				continue
			}
			rate, err := stage.Rate()
			if err != nil {
				continue
			}
			laid, slab := *d.Done, late
			if s.Stage.Ends() { // what ends counts from the first section
				laid, slab = *d.Begun, early
			}
			took, outside, _ := rate.Along(slab).Reach(0)
			comes := took.After(laid).Round(time.Second)
			s.Comes, s.Outside = &comes, outside
		}
	}
	return out
}

// given reads when the surface was given for its uses.
func (d *CoatDay) given(events []*Event) {
	for _, e := range events {
		for n := range d.Stages {
			if s := &d.Stages[n]; e.Kind == Served && string(s.Stage) == e.Body.Stage {
				at := e.When()
				s.Given, s.By = &at, e.Name
			}
		}
	}
}
