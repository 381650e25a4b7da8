package job

import "slices"

// Blind is the file without what those on the floor need not know: prices, and who the
// client is.
func (f File) Blind() File {
	f.Job.Client, f.Job.Notes, f.Job.HourCost = "", "", nil
	f.Products = slices.Clone(f.Products)
	for i, p := range f.Products {
		f.Products[i] = p.Unpriced()
	}
	f.Media = slices.Clone(f.Media)
	for i, m := range f.Media {
		f.Media[i] = m.Unpriced()
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
