package plan

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/school"
)

// Together holds what several jobs buy in one purchase.
type Together struct {
	Lines    []SharedLine  `json:"lines"`
	Apart    *float64      `json:"apart,omitempty" doc:"What the jobs cost one by one; absent where a size has no price"`
	Cost     *float64      `json:"cost,omitempty" doc:"What they cost together"`
	Others   []SharedOther `json:"others" doc:"Media and preparation materials, by name; tools are each job's own"`
	Currency string        `json:"currency"`
	Notes    []string      `json:"notes"`
}

// SharedLine is one product in all the jobs.
type SharedLine struct {
	kit.Purchase
	Jobs  []JobNeed `json:"jobs"`
	Apart *float64  `json:"apart,omitempty" doc:"What its kits cost where each job buys its own"`
}

// JobNeed holds what one job needs of a product.
type JobNeed struct {
	Job  string         `json:"job"`
	Need measure.Volume `json:"need" doc:"m³"`
	Left measure.Volume `json:"left" doc:"m³ left over where the job buys its own"`
}

// reservedOnce returns the stock that a job has reserved and no job before it, of those in date,
// and what is to be said of the rest. It adds the containers to those seen.
func reservedOnce(f job.File, seen map[string]bool, now time.Time) (stock []kit.Container, notes []string) {
	for _, c := range f.Job.Stock {
		if seen[c.ID] {
			notes = append(notes,
				fmt.Sprintf("A container of %s is reserved by more than one of these jobs; it counts once.", c.Sheet))
			continue
		}
		seen[c.ID] = true
		if !c.Expired(now) || f.Job.Methods.Shelf == school.IfSealed {
			stock = append(stock, c)
		}
	}
	return stock, notes
}

// BuyTogether buys for several jobs at once, exactly as for one: whole kits that
// cover the sum of their needs, after the stock that each has reserved. It fails
// where they are priced in different currencies.
func BuyTogether(files []job.File, units measure.System, now time.Time) (Together, error) {
	t := Together{Lines: []SharedLine{}, Others: []SharedOther{}, Notes: []string{}}
	var shared []sharedSheet // by line
	var wants []kit.Wish
	seen := make(map[string]bool)
	for i, f := range files {
		if i == 0 {
			t.Currency = f.Job.Currency
		} else if f.Job.Currency != t.Currency {
			return t, fmt.Errorf("%s is priced in %s and %s in %s; buy them apart, or price them in one currency",
				files[0].Job.Name, t.Currency, f.Job.Name, f.Job.Currency)
		}
		p := Make(f, units, now)
		if n := len(p.Refused()); n > 0 {
			t.Notes = append(t.Notes, fmt.Sprintf("%s is not complete yet: %s Its needs here may be too small.", f.Job.Name,
				p.Refused()[0].Text))
		}
		stock, notes := reservedOnce(f, seen, now)
		t.Notes = append(t.Notes, notes...)
		wants = append(wants, f.Job.Buying...)
		t.addOthers(f, p, stock)
		for _, b := range p.Purchases {
			key := material.SheetKey{Product: b.Product, Hardener: b.Hardener}
			sheet, err := sheetOf(f, b)
			if err != nil {
				return t, err
			}
			n := slices.IndexFunc(shared, func(s sharedSheet) bool { return s.key == key && s.sheet.agrees(sheet) })
			if n < 0 {
				n = len(t.Lines)
				if other := slices.IndexFunc(shared, func(s sharedSheet) bool { return s.key == key }); other >= 0 {
					t.Notes = append(t.Notes, fmt.Sprintf(
						"The sheets of %s in %s and %s contradict each other: mixed %s and %s, in sizes of %s and %s. Each is bought "+
							"by itself; correct the sheet of one of the jobs.",
						sheet.Name, t.Lines[other].Jobs[0].Job, f.Job.Name, shared[other].sheet.proportion(),
						soldSheet{sheet}.proportion(), shared[other].sheet.sizes(), soldSheet{sheet}.sizes(),
					))
				}
				t.Lines = append(t.Lines, SharedLine{Apart: new(float64)})
				shared = append(shared, sharedSheet{key: key, sheet: soldSheet{sheet}})
			} else if was := shared[n].sheet; sheet.Version != was.Version {
				t.Notes = append(t.Notes,
					fmt.Sprintf("%s is planned with edition %d of its sheet and with edition %d; the newer one counts here.",
						sheet.Name, was.Version, sheet.Version))
				if sheet.Version > was.Version {
					shared[n].sheet = soldSheet{sheet}
				}
			}
			line := &t.Lines[n]
			shared[n].need += b.Need
			for _, c := range stock {
				if c.Sheet == b.Product {
					shared[n].stock = append(shared[n].stock, c)
				}
			}
			line.Jobs = append(line.Jobs, JobNeed{f.Job.Name, b.Need, b.Leftover})
			line.Product, line.Hardener = b.Product, b.Hardener
			if b.Cost == nil || line.Apart == nil {
				line.Apart = nil
			} else {
				*line.Apart += *b.Cost
			}
		}
	}
	t.buyOthers()
	t.Apart, t.Cost = new(float64), new(float64)
	for i := range t.Lines {
		if err := t.buy(i, shared[i], wants, units, now); err != nil {
			return t, err
		}
	}
	return t, nil
}

// sharedSheet is a sheet that several jobs buy by, with what they need of it.
type sharedSheet struct {
	key   material.SheetKey
	sheet soldSheet
	need  measure.Volume
	stock []kit.Container // reserved by the jobs that plan with this sheet
}

// soldSheet is a sheet as a purchase sees it.
type soldSheet struct{ material.Product }

// agrees reports whether kits bought by one sheet serve the other: the same parts in the
// same proportion, and the same sizes where it is the same edition.
func (b soldSheet) agrees(other material.Product) bool {
	mine, theirs := b.Mix(), other.Mix()
	if len(mine.Shares) != len(theirs.Shares) {
		return false
	}
	const off = 1e-6
	for i, s := range mine.Shares {
		if math.Abs(s.Volume-theirs.Shares[i].Volume) > off {
			return false
		}
	}
	return b.Version != other.Version || slices.EqualFunc(b.Kits, other.Kits, func(k, o material.Kit) bool {
		return k.Name == o.Name && equal(k.Volume, o.Volume) && equal(k.Mass, o.Mass)
	})
}

func equal[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// proportion returns the parts of the mix, such as "2 : 1 by volume".
func (b soldSheet) proportion() string {
	words := make([]string, len(b.Components))
	for i, c := range b.Components {
		words[i] = strconv.FormatFloat(c.Parts, 'g', 6, 64)
	}
	return strings.Join(words, " : ") + " by " + string(b.Ratio.Basis)
}

func (b soldSheet) sizes() string {
	names := make([]string, len(b.Kits))
	for i, k := range b.Kits {
		names[i] = k.Name
	}
	return input.List(names)
}

func (t *Together) buy(i int, by sharedSheet, wants []kit.Wish, units measure.System, now time.Time) error {
	line, sheet := &t.Lines[i], by.sheet.Product
	mix := sheet.Mix()
	// What is past its date is here by the rule of the job that reserved it.
	bought, err := kit.Buy(sheet, line.Hardener, mix, by.need, kit.OnHand(sheet, mix, line.Hardener, by.stock, now, true,
		units), wants)
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
