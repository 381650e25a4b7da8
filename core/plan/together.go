package plan

import (
	"fmt"
	"time"

	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
)

// Together is what several jobs buy in one purchase.
type Together struct {
	Lines    []SharedLine `json:"lines"`
	Apart    *float64     `json:"apart,omitempty" doc:"What the jobs cost one by one; absent where a size has no price"`
	Cost     *float64     `json:"cost,omitempty" doc:"What they cost together"`
	Currency string       `json:"currency"`
	Notes    []string     `json:"notes"`
}

// SharedLine is one product in all the jobs.
type SharedLine struct {
	kit.Purchase
	Jobs  []JobNeed `json:"jobs"`
	Apart *float64  `json:"apart,omitempty" doc:"What its kits cost where each job buys its own"`
}

// JobNeed is what one job needs of a product.
type JobNeed struct {
	Job  string         `json:"job"`
	Need measure.Volume `json:"need" doc:"m³"`
	Left measure.Volume `json:"left" doc:"m³ left over where the job buys its own"`
}

// BuyTogether buys for several jobs at once, exactly as for one: whole kits that
// cover the sum of their needs, after the stock that each has reserved. It fails
// where they are priced in different currencies.
func BuyTogether(files []job.File, units measure.System, now time.Time) (Together, error) {
	t := Together{Lines: []SharedLine{}, Notes: []string{}}
	sheets := make(map[material.SheetKey]material.Product)
	needs := make(map[material.SheetKey]measure.Volume)
	at := make(map[material.SheetKey]int)
	var stock []kit.Container
	var wants []kit.Wish
	seen := make(map[string]bool)
	for i, f := range files {
		if i == 0 {
			t.Currency = f.Job.Currency
		} else if f.Job.Currency != t.Currency {
			return t, fmt.Errorf("%s is priced in %s and %s in %s; buy them apart, or price them in one currency", files[0].Job.Name, t.Currency, f.Job.Name, f.Job.Currency)
		}
		p := Make(f, units, now)
		if n := len(p.Refused()); n > 0 {
			t.Notes = append(t.Notes, fmt.Sprintf("%s is not whole yet: %s Its needs here may be too small.", f.Job.Name, p.Refused()[0].Text))
		}
		for _, c := range f.Job.Stock {
			if seen[c.ID] {
				t.Notes = append(t.Notes, fmt.Sprintf("A container of %s is reserved by more than one of these jobs; it counts once.", c.Sheet))
				continue
			}
			seen[c.ID] = true
			if !c.Expired(now) || f.Job.Methods.Shelf == school.IfSealed {
				stock = append(stock, c)
			}
		}
		wants = append(wants, f.Job.Buying...)
		for _, b := range p.Purchases {
			key := material.SheetKey{Product: b.Product, Hardener: b.Hardener}
			sheet, err := sheetOf(f, b)
			if err != nil {
				return t, err
			}
			n, known := at[key]
			if !known {
				n = len(t.Lines)
				at[key] = n
				t.Lines = append(t.Lines, SharedLine{Apart: new(float64)})
				sheets[key] = sheet
			} else if sheet.Version != sheets[key].Version {
				t.Notes = append(t.Notes, fmt.Sprintf("%s is planned with edition %d of its sheet and with edition %d; the newer one counts here.", sheet.Name, sheets[key].Version, sheet.Version))
				if sheet.Version > sheets[key].Version {
					sheets[key] = sheet
				}
			}
			line := &t.Lines[n]
			needs[key] += b.Need
			line.Jobs = append(line.Jobs, JobNeed{f.Job.Name, b.Need, b.Leftover})
			line.Product, line.Hardener = b.Product, b.Hardener
			if b.Cost == nil || line.Apart == nil {
				line.Apart = nil
			} else {
				*line.Apart += *b.Cost
			}
		}
	}
	t.Apart, t.Cost = new(float64), new(float64)
	for i := range t.Lines {
		if err := t.buy(i, sheets, needs, stock, wants, units, now); err != nil {
			return t, err
		}
	}
	return t, nil
}

func (t *Together) buy(i int, sheets map[material.SheetKey]material.Product, needs map[material.SheetKey]measure.Volume, stock []kit.Container, wants []kit.Wish, units measure.System, now time.Time) error {
	line := &t.Lines[i]
	key := material.SheetKey{Product: line.Product, Hardener: line.Hardener}
	sheet := sheets[key]
	mix := sheet.Mix()
	// What is past its date is here by the rule of the job that reserved it.
	bought, err := kit.Buy(sheet, line.Hardener, mix, needs[key], kit.OnHand(sheet, mix, line.Hardener, stock, now, true, units), wants)
	if err != nil {
		return fmt.Errorf("%s: %w", sheet.Name, err)
	}
	line.Purchase = bought
	sum := func(into **float64, part *float64) {
		if part == nil || *into == nil {
			*into = nil
			return
		}
		**into += *part
	}
	sum(&t.Apart, line.Apart)
	sum(&t.Cost, bought.Cost)
	return nil
}

// sheetOf is the sheet that a purchase of a file was made from.
func sheetOf(f job.File, b kit.Purchase) (material.Product, error) {
	for _, p := range f.Products {
		if p.ID == b.Product {
			return p.With(b.Hardener)
		}
	}
	return material.Product{}, fmt.Errorf("%s is not in the file of %s", b.Name, f.Job.Name)
}
