package job

import "slices"

// Blind is the file without what those on the floor need not know: prices, and who the
// client is.
func (f File) Blind() File {
	f.Job.Client, f.Job.Notes, f.Job.HourCost = "", "", nil
	f.Products = slices.Clone(f.Products)
	for i := range f.Products {
		p := &f.Products[i]
		p.Kits = slices.Clone(p.Kits)
		for k := range p.Kits {
			p.Kits[k].Price = nil
		}
	}
	f.Media = slices.Clone(f.Media)
	for i := range f.Media {
		m := &f.Media[i]
		m.Packs = slices.Clone(m.Packs)
		for k := range m.Packs {
			m.Packs[k].Price = nil
		}
	}
	return f
}

// Prices are the prices that a file tells, in their order by product and size.
func (f File) Prices() map[string]float64 {
	all := make(map[string]float64)
	for _, p := range f.Products {
		for _, k := range p.Kits {
			if k.Price != nil {
				all[p.ID+"/"+k.Name] = *k.Price
			}
		}
	}
	for _, m := range f.Media {
		for _, k := range m.Packs {
			if k.Price != nil {
				all[m.ID+"/"+k.Name] = *k.Price
			}
		}
	}
	return all
}
