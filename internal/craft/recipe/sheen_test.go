package recipe

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
)

func coat(family, role, sheen string, coats int) Step {
	return Step{Step: job.Step{Kind: job.Coat, Family: family, Role: role, Sheen: sheen, Coats: coats}, Regions: []string{"body:top"}}
}

func work(kind job.Kind, ladder ...string) Step {
	return Step{Step: job.Step{Kind: kind, Ladder: ladder}, Regions: []string{"body:top"}}
}

func TestWhatAPathOfStepsLeaves(t *testing.T) {
	for name, test := range map[string]struct {
		steps []Step
		sheen string
	}{
		"a film as it was sprayed": {[]Step{coat("nitro", "clear", "", 8)}, ""},
		"levelled, not buffed":     {[]Step{coat("nitro", "clear", "", 8), work(job.Level, papers(800, 1000)...)}, "satin"},
		"levelled coarsely":        {[]Step{coat("nitro", "clear", "", 8), work(job.Level, papers(600)...)}, "matte"},
		"compounds": {[]Step{coat("nitro", "clear", "", 8), work(job.Level, papers(2000)...),
			work(job.Buff, "compound:fine")}, "gloss"},
		"fine papers right up": {[]Step{coat("nitro", "clear", "", 8), work(job.Level, papers(3000, 5000)...)}, "gloss"},
		"coats after an interim levelling": {[]Step{coat("nitro", "clear", "", 4), work(job.Level, papers(600)...),
			coat("nitro", "clear", "", 4)}, ""},
		"matte from the can": {[]Step{coat("water-clear", "clear", "", 4), work(job.Level, papers(600)...),
			coat("water-clear", "flat", "matte", 1)}, "matte"},
		"matte from the can, then rubbed": {[]Step{coat("water-clear", "flat", "matte", 1), work(job.Buff, "compound:fine")}, "gloss"},
		"a scuff is no finish":            {[]Step{coat("water-clear", "flat", "satin", 1), work(job.Scuff, papers(400)...)}, "satin"},
		"oil, few coats":                  {[]Step{coat("finishing-oil", "oil", "", 3)}, "matte"},
		"oil, some coats":                 {[]Step{coat("finishing-oil", "oil", "", 1), coat("finishing-oil", "oil", "", 4)}, "satin"},
		"oil, many coats and a cloth": {[]Step{coat("finishing-oil", "oil", "", 6), work(job.Buff, "nonwoven:white-nonabrasive")},
			"gloss"},
		"hard-wax oil never shines": {[]Step{coat("hardwax-oil", "oil", "", 3)}, "satin"},
		"wax leaves the sheen it finds": {[]Step{coat("nitro", "clear", "", 8), work(job.Buff, "nonwoven:ultra-fine"),
			coat("paste-wax", "wax", "", 1)}, "satin"},
		"wool on a film": {[]Step{coat("nitro", "clear", "", 8), work(job.Buff, "wool:0000")}, "satin"},
		"another region's work does not count": {[]Step{coat("nitro", "clear", "", 8),
			{Step: job.Step{Kind: job.Buff, Ladder: []string{"compound:fine"}}, Regions: []string{"body:back"}}}, ""},
	} {
		t.Run(name, func(t *testing.T) {
			d := Draft{Pieces: []Piece{{Kind: Body, Steps: test.steps}}}
			assert.Equal(t, test.sheen, d.sheen("body:top"))
		})
	}
}
