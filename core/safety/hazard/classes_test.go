package hazard_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/hazard"
)

// elements are what CLP, annex I, tables 2.1.2 to 5.1 (and GHS, annex 2, for its own categories) ask for: class,
// pictograms, signal word, hazard statements. They were written down from the tables of the regulation, class by class,
// apart from those that the program reads.
const elements = `
clp    | Unst. Expl.                       | 01    | danger  | H200
clp    | Expl. 1.1                         | 01    | danger  | H201
clp    | Expl. 1.2                         | 01    | danger  | H202
clp    | Expl. 1.3                         | 01    | danger  | H203
clp    | Expl. 1.4                         | 01    | warning | H204
clp    | Expl. 1.5                         |       | danger  | H205
clp    | Expl. 1.6                         |       |         |
clp    | Flam. Gas 1A                      | 02    | danger  | H220
clp    | Flam. Gas 1A (pyrophoric)         | 02    | danger  | H220 H232
clp    | Flam. Gas 1A (unstable A)         | 02    | danger  | H220 H230
clp    | Flam. Gas 1A (unstable B)         | 02    | danger  | H220 H231
clp    | Flam. Gas 1B                      | 02    | danger  | H221
clp    | Flam. Gas 2                       |       | warning | H221
clp    | Aerosol 1                         | 02    | danger  | H222 H229
clp    | Aerosol 2                         | 02    | warning | H223 H229
clp    | Aerosol 3                         |       | warning | H229
clp    | Ox. Gas 1                         | 03    | danger  | H270
clp    | Press. Gas (Comp.)                | 04    | warning | H280
clp    | Press. Gas (Liq.)                 | 04    | warning | H280
clp    | Press. Gas (Ref. Liq.)            | 04    | warning | H281
clp    | Press. Gas (Diss.)                | 04    | warning | H280
clp    | Flam. Liq. 1                      | 02    | danger  | H224
clp    | Flam. Liq. 2                      | 02    | danger  | H225
clp    | Flam. Liq. 3                      | 02    | warning | H226
ghs    | Flam. Liq. 4                      |       | warning | H227
hazcom | Flam. Liq. 4                      |       | warning | H227
clp    | Flam. Sol. 1                      | 02    | danger  | H228
clp    | Flam. Sol. 2                      | 02    | warning | H228
clp    | Self-react. A                     | 01    | danger  | H240
clp    | Self-react. B                     | 01 02 | danger  | H241
clp    | Self-react. C                     | 02    | danger  | H242
clp    | Self-react. D                     | 02    | danger  | H242
clp    | Self-react. E                     | 02    | warning | H242
clp    | Self-react. F                     | 02    | warning | H242
clp    | Self-react. G                     |       |         |
clp    | Pyr. Liq. 1                       | 02    | danger  | H250
clp    | Pyr. Sol. 1                       | 02    | danger  | H250
clp    | Self-heat. 1                      | 02    | danger  | H251
clp    | Self-heat. 2                      | 02    | warning | H252
clp    | Water-react. 1                    | 02    | danger  | H260
clp    | Water-react. 2                    | 02    | danger  | H261
clp    | Water-react. 3                    | 02    | warning | H261
clp    | Ox. Liq. 1                        | 03    | danger  | H271
clp    | Ox. Liq. 2                        | 03    | danger  | H272
clp    | Ox. Liq. 3                        | 03    | warning | H272
clp    | Ox. Sol. 1                        | 03    | danger  | H271
clp    | Ox. Sol. 2                        | 03    | danger  | H272
clp    | Ox. Sol. 3                        | 03    | warning | H272
clp    | Org. Perox. A                     | 01    | danger  | H240
clp    | Org. Perox. B                     | 01 02 | danger  | H241
clp    | Org. Perox. C                     | 02    | danger  | H242
clp    | Org. Perox. D                     | 02    | danger  | H242
clp    | Org. Perox. E                     | 02    | warning | H242
clp    | Org. Perox. F                     | 02    | warning | H242
clp    | Org. Perox. G                     |       |         |
clp    | Met. Corr. 1                      | 05    | warning | H290
clp    | Desen. Expl. 1                    | 02    | danger  | H206
clp    | Desen. Expl. 2                    | 02    | danger  | H207
clp    | Desen. Expl. 3                    | 02    | warning | H207
clp    | Desen. Expl. 4                    | 02    | warning | H208
ghs    | Chem. Press. 1                    | 02 04 | danger  | H282
ghs    | Chem. Press. 2                    | 02 04 | warning | H283
ghs    | Chem. Press. 3                    | 04    | warning | H284
clp    | Acute Tox. 1 (oral)               | 06    | danger  | H300
clp    | Acute Tox. 2 (oral)               | 06    | danger  | H300
clp    | Acute Tox. 3 (oral)               | 06    | danger  | H301
clp    | Acute Tox. 4 (oral)               | 07    | warning | H302
ghs    | Acute Tox. 5 (oral)               |       | warning | H303
clp    | Acute Tox. 1 (dermal)             | 06    | danger  | H310
clp    | Acute Tox. 2 (dermal)             | 06    | danger  | H310
clp    | Acute Tox. 3 (dermal)             | 06    | danger  | H311
clp    | Acute Tox. 4 (dermal)             | 07    | warning | H312
ghs    | Acute Tox. 5 (dermal)             |       | warning | H313
clp    | Acute Tox. 1 (inhalation)         | 06    | danger  | H330
clp    | Acute Tox. 2 (inhalation)         | 06    | danger  | H330
clp    | Acute Tox. 3 (inhalation)         | 06    | danger  | H331
clp    | Acute Tox. 4 (inhalation)         | 07    | warning | H332
ghs    | Acute Tox. 5 (inhalation)         |       | warning | H333
clp    | Skin Corr. 1                      | 05    | danger  | H314
clp    | Skin Corr. 1A                     | 05    | danger  | H314
clp    | Skin Corr. 1B                     | 05    | danger  | H314
clp    | Skin Corr. 1C                     | 05    | danger  | H314
clp    | Skin Irrit. 2                     | 07    | warning | H315
ghs    | Skin Irrit. 3                     |       | warning | H316
clp    | Eye Dam. 1                        | 05    | danger  | H318
clp    | Eye Irrit. 2                      | 07    | warning | H319
ghs    | Eye Irrit. 2A                     | 07    | warning | H319
hazcom | Eye Irrit. 2B                     |       | warning | H320
clp    | Resp. Sens. 1                     | 08    | danger  | H334
clp    | Resp. Sens. 1A                    | 08    | danger  | H334
clp    | Resp. Sens. 1B                    | 08    | danger  | H334
clp    | Skin Sens. 1                      | 07    | warning | H317
clp    | Skin Sens. 1A                     | 07    | warning | H317
clp    | Skin Sens. 1B                     | 07    | warning | H317
clp    | Muta. 1A                          | 08    | danger  | H340
clp    | Muta. 1B                          | 08    | danger  | H340
clp    | Muta. 2                           | 08    | warning | H341
clp    | Carc. 1A                          | 08    | danger  | H350
clp    | Carc. 1B                          | 08    | danger  | H350
clp    | Carc. 1B (inhalation)             | 08    | danger  | H350i
clp    | Carc. 2                           | 08    | warning | H351
clp    | Repr. 1A                          | 08    | danger  | H360
clp    | Repr. 1B                          | 08    | danger  | H360
clp    | Repr. 1B (F)                      | 08    | danger  | H360F
clp    | Repr. 1B (D)                      | 08    | danger  | H360D
clp    | Repr. 1B (Fd)                     | 08    | danger  | H360Fd
clp    | Repr. 1B (Df)                     | 08    | danger  | H360Df
clp    | Repr. 2                           | 08    | warning | H361
clp    | Repr. 2 (f)                       | 08    | warning | H361f
clp    | Repr. 2 (fd)                      | 08    | warning | H361fd
clp    | Lact.                             |       |         | H362
clp    | STOT SE 1                         | 08    | danger  | H370
clp    | STOT SE 2                         | 08    | warning | H371
clp    | STOT SE 3 (respiratory irritation) | 07   | warning | H335
clp    | STOT SE 3 (narcotic effects)      | 07    | warning | H336
clp    | STOT RE 1                         | 08    | danger  | H372
clp    | STOT RE 2                         | 08    | warning | H373
clp    | Asp. Tox. 1                       | 08    | danger  | H304
ghs    | Asp. Tox. 2                       | 08    | warning | H305
clp    | Aquatic Acute 1                   | 09    | warning | H400
ghs    | Aquatic Acute 2                   |       |         | H401
ghs    | Aquatic Acute 3                   |       |         | H402
clp    | Aquatic Chronic 1                 | 09    | warning | H410
clp    | Aquatic Chronic 2                 | 09    |         | H411
clp    | Aquatic Chronic 3                 |       |         | H412
clp    | Aquatic Chronic 4                 |       |         | H413
clp    | Ozone 1                           | 07    | warning | H420
clp    | ED HH 1                           |       | danger  | EUH380
clp    | ED HH 2                           |       | warning | EUH381
clp    | ED ENV 1                          |       | danger  | EUH430
clp    | ED ENV 2                          |       | warning | EUH431
clp    | PBT                               |       | danger  | EUH440
clp    | vPvB                              |       | danger  | EUH441
clp    | PMT                               |       | danger  | EUH450
clp    | vPvM                              |       | danger  | EUH451`

func TestEveryClassHasItsElements(t *testing.T) {
	seen := map[string]bool{}
	for _, row := range strings.Split(strings.TrimSpace(elements), "\n") {
		cells := strings.Split(row, "|")
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		l := label(t, cells[1], hazard.Wanted{Rules: hazard.RuleSet(cells[0])})
		var pictograms []string
		for _, p := range l.Pictograms {
			pictograms = append(pictograms, strings.TrimPrefix(p.Code, "GHS"))
		}
		require.Equal(t, cells[2], strings.Join(pictograms, " "), row)
		require.Equal(t, cells[3], string(l.Signal), row)
		require.Equal(t, cells[4], codes(append(l.Hazards, l.Supplemental...)), row)
		seen[cells[1]] = true
	}
	for _, class := range hazard.Shipped().Classes { // none is in the book alone
		name := class.String()
		if class.Class == "Flam. Gas" && class.Category == "1" || class.Class == "Press. Gas" && class.Of == "" ||
			class.String() == "Carc. 1A (inhalation)" {
			continue // older names, and what stands for the others
		}
		require.True(t, seen[name], "%s is not among the cases", name)
	}
}

// Words of statements as annexes III and IV of the regulation have them.
func TestStatementsAreWorded(t *testing.T) {
	for _, want := range []struct{ code, language, text string }{
		{"H225", "en", "Highly flammable liquid and vapour."},
		{"H225", "de", "Flüssigkeit und Dampf leicht entzündbar."},
		{"H225", "fr", "Liquide et vapeurs très inflammables."}, {"H225", "es", "Líquido y vapores muy inflamables."},
		{"H290", "en", "May be corrosive to metals."}, {"H290", "de", "Kann gegenüber Metallen korrosiv sein."},
		{"H301", "en", "Toxic if swallowed."}, {"H301", "fr", "Toxique en cas d'ingestion."},
		{"H301", "es", "Tóxico en caso de ingestión."},
		{"H314", "en", "Causes severe skin burns and eye damage."},
		{"H314", "de", "Verursacht schwere Verätzungen der Haut und schwere Augenschäden."},
		{"H317", "en", "May cause an allergic skin reaction."}, {"H317", "fr", "Peut provoquer une allergie cutanée."},
		{"H334", "en", "May cause allergy or asthma symptoms or breathing difficulties if inhaled."},
		{"H350", "en", "May cause cancer."}, {"H350", "es", "Puede provocar cáncer."},
		{"H350i", "de", "Kann bei Einatmen Krebs erzeugen."},
		{"H372", "en", "Causes damage to organs through prolonged or repeated exposure."},
		{"H372", "de", "Schädigt die Organe bei längerer oder wiederholter Exposition."},
		{"H410", "en", "Very toxic to aquatic life with long lasting effects."},
		{"H410", "de", "Sehr giftig für Wasserorganismen mit langfristiger Wirkung."},
		{"H412", "en", "Harmful to aquatic life with long lasting effects."},
		{"H420", "en", "Harms public health and the environment by destroying ozone in the upper atmosphere."},
		{"EUH066", "en", "Repeated exposure may cause skin dryness or cracking."},
		{"EUH031", "fr", "Au contact d'un acide, dégage un gaz toxique."},
		{"EUH208", "en", "Contains …. May produce an allergic reaction."},
		{"P210", "en", "Keep away from heat, hot surfaces, sparks, open flames and other ignition sources. No " +
			"smoking."}, {"P102", "de", "Darf nicht in die Hände von Kindern gelangen."},
		{"P305+P351+P338", "en", "IF IN EYES: Rinse cautiously with water for several minutes. Remove contact " +
			"lenses, if present and easy to do. Continue rinsing."},
		{"P301+P330+P331", "de", "BEI VERSCHLUCKEN: Mund ausspülen. KEIN Erbrechen herbeiführen."},
		{"P405", "fr", "Garder sous clef."}, {"P501", "es", "Eliminar el contenido/el recipiente en …"},
	} {
		text, known := hazard.Shipped().Text(want.code, want.language)
		require.True(t, known, want.code)
		require.Equal(t, want.text, text, "%s in %s", want.code, want.language)
	}
	for _, code := range hazard.Shipped().Codes() {
		for _, language := range hazard.Languages {
			text, _ := hazard.Shipped().Text(code, language)
			require.NotContains(t, text, `\`, "%s in %s", code, language)
			require.NotContains(t, text, "  ", "%s in %s", code, language)
			require.Equal(t, strings.TrimSpace(text), text, "%s in %s", code, language)
		}
	}
}

// The public is told what saves life, too, and HazCom all that its appendix assigns, in its spelling.
func TestPrecautionsOfWhoReceivesIt(t *testing.T) {
	thinner := label(t, "Flam. Liq. 2; Asp. Tox. 1; STOT SE 3 (narcotic effects); Repr. 2", hazard.Wanted{Public: true})
	for _, code := range []string{"P101", "P102", "P301+P310", "P331", "P501"} {
		require.Contains(t, " "+codes(thinner.Precautions)+" ", " "+code+" ")
	}
	hazcom := label(t, "Flam. Liq. 2; Skin Irrit. 2; STOT SE 3 (narcotic effects)", hazard.Wanted{Rules: hazard.HazCom})
	for _, code := range []string{"P210", "P233", "P240", "P241", "P242", "P243", "P280", "P303+P361+P353", "P370+P378",
		"P403+P235", "P501", "P264", "P302+P352", "P332+P313", "P362+P364", "P261", "P271", "P304+P340", "P312",
		"P405"} {
		require.Contains(t, codes(hazcom.Precautions), code)
	}
	require.Contains(t, hazcom.Hazards[0].Text, "vapor.")
	require.Contains(t, label(t, "Flam. Liq. 2", hazard.Wanted{}).Hazards[0].Text, "vapour.")
}

// What the choice of six keeps and leaves out.
func TestPrecautionsAreChosen(t *testing.T) {
	for classes, want := range map[string]struct{ keeps, leaves string }{
		"Flam. Liq. 2":              {"P210 P303+P361+P353", "P243"},
		"Skin Corr. 1B":             {"P280 P301+P330+P331 P303+P361+P353 P305+P351+P338 P310", "P363"},
		"Acute Tox. 1 (inhalation)": {"P260 P304+P340 P310", "P320"},
		"Press. Gas; Acute Tox. 3 (inhalation); Skin Corr. 1A; STOT RE 1; " +
			"Repr. 1A": {"P304+P340 P280 P305+P351+P338 P303+P361+P353", "P301+P330+P331"},
		"Flam. Liq. 2; Asp. Tox. 1; Carc. 1B; STOT RE 1; Aquatic Chronic 1": {"P301+P310 P331", ""},
		"Skin Corr. 1A; Ox. Liq. 1; Acute Tox. 2 (oral); Acute Tox. 2 " +
			"(dermal)": {"P280 P301+P310 P303+P361+P353 P305+P351+P338", "P302+P352"},
		"Carc. 1B; Muta. 1B; Repr. 1B": {"P201 P280 P308+P313", "P202"},
		"Aquatic Chronic 2":            {"P273 P391 P501", ""},
		"Press. Gas (Liq.)":            {"P410+P403", ""},
		"Press. Gas (Ref. Liq.)":       {"P282 P336+P315 P403", ""},
		"Water-react. 1": {"P223 P231+P232 P302+P335+P334",
			""},
		"Resp. Sens. 1": {"P261 P284 P342+P311", ""},
		"Skin Irrit. 2; Eye Irrit. 2": {"P280 P305+P351+P338 P337+P313",
			"P321"},
		"Skin Irrit. 2; Skin Sens. 1": {"P333+P313", "P332+P313"},
		"Asp. Tox. 1":                 {"P301+P310 P331", ""},
		"Aerosol 1":                   {"P210 P211 P251 P410+P412", ""},
		"Expl. 1.1":                   {"P250 P370+P372+P380+P373", ""},
		"Ox. Gas 1; Press. Gas (Comp.)": {"P220 P244 P370+P376 P410+P403",
			"P403"},
		"Org. Perox. B; Skin Sens. 1; Eye Irrit. 2": {"P210 P280", ""},
	} {
		l := label(t, classes, hazard.Wanted{})
		due := 0
		for _, p := range l.Precautions {
			require.NotEmpty(t, p.Why, p.Code)
			if strings.HasPrefix(p.Why, "it saves life") {
				due++
			}
		}
		require.LessOrEqual(t, len(l.Precautions), max(hazard.Customary, due), classes)
		kept := " " + codes(l.Precautions) + " "
		for _, code := range strings.Fields(want.keeps) {
			require.Contains(t, kept, " "+code+" ", classes)
		}
		for _, code := range strings.Fields(want.leaves) {
			require.NotContains(t, kept, " "+code+" ", classes)
			why := ""
			for _, out := range l.LeftOut {
				if out.Code == code {
					why = out.Why
				}
			}
			require.NotEmpty(t, why, "%s of %s is left out with a reason", code, classes)
		}
	}
}

// Further languages have the words of annexes III and IV of CLP; what is not kept is refused, not left out.
func TestFurtherLanguages(t *testing.T) {
	book := hazard.Shipped()
	for language, want := range map[string][4]string{
		"it": {"Pericolo", "Liquido e vapori facilmente infiammabili.", "Tenere fuori dalla portata dei bambini.",
			"Lavare accuratamente le mani dopo l'uso."},
		"nl": {"Gevaar", "Licht ontvlambare vloeistof en damp.", "Buiten het bereik van kinderen houden.",
			"Na het werken met dit product handen grondig wassen."},
		"pl": {"Niebezpieczeństwo", "Wysoce łatwopalna ciecz i pary.", "Chronić przed dziećmi.",
			"Dokładnie umyć ręce po użyciu."},
		"pt": {"Perigo", "Líquido e vapor facilmente inflamáveis.", "Manter fora do alcance das crianças.",
			"Lavar as mãos cuidadosamente após manuseamento."},
	} {
		classes, err := book.Parse("Flam. Liq. 2; Acute Tox. 4 (oral)", hazard.CLP)
		require.NoError(t, err)
		l, err := book.Label(classes, hazard.Wanted{Language: language, Public: true,
			Fill:    map[string]string{"P501": "…x"},
			Choices: map[string]hazard.Choice{"P264": {Keep: true, Reason: "test"}}})
		require.NoError(t, err)
		said := hazard.Said(l.Hazards) + hazard.Said(l.Precautions)
		require.Equal(t, want[0], l.SignalWord)
		for _, words := range want[1:] {
			require.Contains(t, said, words, language)
		}
		// Each class of CLP but those of 2023 has all of its words, with the same blanks as in English.
		for i := range book.Classes {
			c := &book.Classes[i]
			if c.Rules != nil && !slices.Contains(c.Rules, hazard.CLP) || len(c.Hazards) == 1 &&
				(strings.HasPrefix(c.Hazards[0], "EUH4") || strings.HasPrefix(c.Hazards[0], "EUH38") ||
					c.Class == "Desen. Expl.") {
				continue
			}
			for _, code := range append(slices.Clone(c.Hazards), c.AllPrecautions()...) {
				text, kept := book.Text(code, language)
				english, _ := book.Text(code, "en")
				require.True(t, kept, "%s: %s of %s", language, code, c)
				require.Equal(t, strings.Count(english, "…"), strings.Count(text, "…"), "%s: %s", language, code)
				require.Equal(t, strings.Count(english, "["), strings.Count(text, "["), "%s: %s", language, code)
			}
		}
	}
	classes, err := book.Parse("PBT", hazard.CLP)
	require.NoError(t, err)
	_, err = book.Label(classes, hazard.Wanted{Language: "pl"})
	require.ErrorContains(t, err, "EUH440 is not kept in Polish here")
	toluene, err := book.Substance("108-88-3")
	require.NoError(t, err)
	l, err := book.SubstanceLabel(toluene, hazard.Wanted{Language: "nl"})
	require.NoError(t, err)
	require.Contains(t, strings.Join(l.Notes, " "), "Its name in Dutch is not kept here")
	_, german := mix(t, "50% 108-88-3", hazard.Dust, "viscosity = none; flash point = none",
		hazard.Wanted{Language: "de"})
	require.NotContains(t, strings.Join(german.Notes, " "), "is not kept here")
	mixed, _ := mix(t, "50% 108-88-3", hazard.Dust, "viscosity = none; flash point = none",
		hazard.Wanted{Language: "de"})
	require.Equal(t, []string{"Toluol"}, mixed.Contributors)
}
