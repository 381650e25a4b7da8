package material

import "slices"

// Unpriced returns the sheet without the prices of its kits and of its hardeners' kits.
func (p Product) Unpriced() Product {
	p.Kits = unpriced(p.Kits)
	p.Hardeners = slices.Clone(p.Hardeners)
	for i := range p.Hardeners {
		p.Hardeners[i].Kits = unpriced(p.Hardeners[i].Kits)
	}
	return p
}

func unpriced(kits []Kit) []Kit {
	kits = slices.Clone(kits)
	for k := range kits {
		kits[k].Price = nil
	}
	return kits
}

// Unpriced returns the medium without the prices of its packs.
func (m Medium) Unpriced() Medium {
	m.Packs = slices.Clone(m.Packs)
	for k := range m.Packs {
		m.Packs[k].Price = nil
	}
	return m
}
