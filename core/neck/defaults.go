package neck

import "ornamen/core/defaults"

// Defaults lists what the model assumes of a guitar.
func Defaults() []defaults.Row {
	g := Standard()
	rows := []defaults.Row{
		{Name: "scale length", Value: float64(g.Scale), Unit: "mm", From: defaults.Model},
		{Name: "frets", Value: float64(g.Frets), From: defaults.Model},
		{Name: "string spread at the nut", Value: float64(g.NutSpread), Unit: "mm", From: defaults.Model},
		{Name: "string spread at the bridge", Value: float64(g.BridgeSpread), Unit: "mm", From: defaults.Model},
		{Name: "outer strings to the edge", Value: float64(g.EdgeRoom), Unit: "mm", From: defaults.Model},
		{Name: "a fingertip presses behind the wire by", Value: float64(pressBehind), Unit: "mm", From: defaults.Model},
		{Name: "… or by this part of a narrower cell", Value: float64(pressPart), From: defaults.Model},
		{Name: "density of steel", Value: steelDensity, Unit: "kg/m³", From: defaults.Handbook},
		{Name: "Young's modulus of steel", Value: steelModulus / 1e9, Unit: "GPa", From: defaults.Handbook},
		{Name: "core of a wound string, part of its gauge", Value: woundCore, From: defaults.Model},
		{Name: "mass of a wound string, part of a solid one", Value: woundMass, From: defaults.Model},
	}
	for _, x := range instruments {
		for _, r := range []defaults.Row{{Name: "scale length", Value: float64(x.scale), Unit: "mm"},
			{Name: "frets", Value: float64(x.frets)}, {Name: "spread at the nut", Value: float64(x.nut), Unit: "mm"},
			{Name: "spread at the bridge", Value: float64(x.bridge), Unit: "mm"}} {
			r.Name, r.From = x.name+": "+r.Name, defaults.Model
			rows = append(rows, r)
		}
	}
	return rows
}
