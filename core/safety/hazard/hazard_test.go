package hazard_test

import (
	"fmt"
	"io/fs"
	"strings"
	"testing"
	"testing/fstest"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/hazard"
)

func codes(list []hazard.Reasoned) string {
	var all []string
	for _, r := range list {
		all = append(all, r.Code)
	}
	return strings.Join(all, " ")
}

// labels of substances as their entries in CLP, annex VI have them: pictograms, signal word, hazard statements.
const labels = `
67-64-1   | 02 07       | danger  | H225 H319 H336
67-56-1   | 02 06 08    | danger  | H225 H301+H311+H331 H370
64-17-5   | 02          | danger  | H225
67-63-0   | 02 07       | danger  | H225 H319 H336
71-23-8   | 02 05 07    | danger  | H225 H318 H336
71-36-3   | 02 05 07    | danger  | H226 H302 H315 H318 H335 H336
78-93-3   | 02 07       | danger  | H225 H319 H336
108-88-3  | 02 07 08    | danger  | H225 H304 H315 H336 H361d H373
1330-20-7 | 02 07       | warning | H226 H312+H332 H315
71-43-2   | 02 07 08    | danger  | H225 H304 H315 H319 H340 H350 H372
110-54-3  | 02 07 08 09 | danger  | H225 H304 H315 H336 H361f H373 H411
142-82-5  | 02 07 08 09 | danger  | H225 H304 H315 H336 H410
141-78-6  | 02 07       | danger  | H225 H319 H336
60-29-7   | 02 07       | danger  | H224 H302 H336
109-99-9  | 02 07 08    | danger  | H225 H302 H319 H335 H351
75-05-8   | 02 07       | danger  | H225 H302+H312+H332 H319
68-12-2   | 07 08       | danger  | H312+H332 H319 H360D
75-09-2   | 08          | warning | H351
67-66-3   | 06 08       | danger  | H302 H315 H319 H331 H351 H361d H372
56-23-5   | 06 08       | danger  | H301+H311+H331 H351 H372 H412 H420
79-01-6   | 07 08       | danger  | H315 H319 H336 H341 H350 H412
127-18-4  | 08 09       | warning | H351 H411
7647-01-0 | 05 06       | danger  | H280 H314 H331
7664-93-9 | 05          | danger  | H314
7697-37-2 | 03 05 06    | danger  | H272 H314 H331
64-19-7   | 02 05       | danger  | H226 H314
7664-39-3 | 05 06       | danger  | H300+H310+H330 H314
1310-73-2 | 05          | danger  | H314
1310-58-3 | 05 07       | danger  | H302 H314
1336-21-6 | 05 07 09    | danger  | H314 H335 H400
7664-41-7 | 05 06 09    | danger  | H221 H280 H314 H331 H400
7681-52-9 | 05 09       | danger  | H314 H410
7778-54-3 | 03 05 07 09 | danger  | H272 H302 H314 H400
7722-84-1 | 03 05 07    | danger  | H271 H302+H332 H314
50-00-0   | 05 06 08    | danger  | H301+H311+H331 H314 H317 H341 H350
111-30-8  | 05 06 08 09 | danger  | H301 H314 H317 H330 H334 H335 H400 H411
108-95-2  | 05 06 08    | danger  | H301+H311+H331 H314 H341 H373
107-13-1  | 02 05 06 08 09 | danger | H225 H301+H311+H331 H315 H317 H318 H335 H350 H411
75-21-8   | 02 05 06 08 | danger  | H220 H230 H280 H301+H331 H314 H335 H336 H340 H350 H360FD H372
106-99-0  | 02 08       | danger  | H220 H280 H340 H350
74-98-6   | 02          | danger  | H220 H280
74-86-2   | 02          | danger  | H220 H230 H280
1333-74-0 | 02          | danger  | H220 H280
7782-44-7 | 03 04       | danger  | H270 H280
7727-37-9 | 04          | warning | H280
630-08-0  | 02 06 08    | danger  | H220 H280 H331 H360D H372
7782-50-5 | 03 06 09    | danger  | H270 H280 H315 H319 H331 H335 H400
7783-06-4 | 02 06 09    | danger  | H220 H280 H330 H400
7726-95-6 | 05 06 09    | danger  | H314 H330 H400
7439-97-6 | 06 08 09    | danger  | H330 H360D H372 H410
7440-23-5 | 02 05       | danger  | H260 H314
75-20-7   | 02          | danger  | H260
1305-78-8 | 05 07       | danger  | H315 H318 H335
7775-09-9 | 03 07 09    | danger  | H271 H302 H411
7722-64-7 | 03 07 08 09 | danger  | H272 H302 H361d H410
7778-50-9 | 03 05 06 08 09 | danger | H272 H301 H312 H314 H317 H330 H334 H340 H350 H360FD H372 H410
7632-00-0 | 03 06 09    | danger  | H272 H301 H400
143-33-9  | 06 08 09    | danger  | H300+H310+H330 H372 H410
26628-22-8 | 06 09      | danger  | H300 H410
7440-02-0 | 07 08       | danger  | H317 H351 H372
7439-92-1 | 08 09       | danger  | H360FD H362 H410
94-36-0   | 01 02 07 09 | danger  | H241 H317 H319 H410
584-84-9  | 06 08       | danger  | H315 H317 H319 H330 H334 H335 H351 H412
7646-79-9 | 07 08 09    | danger  | H302 H317 H334 H341 H350i H360F H410
86290-81-5 | 02 07 08 09 | danger | H225 H304 H315 H336 H340 H350 H361fd H411
497-19-8  | 07          | warning | H319
5989-27-5 | 02 07 08 09 | danger  | H226 H304 H315 H317 H400 H412
75-07-0 | 02 07 08 | danger | H224 H319 H335 H341 H350
107-02-8 | 02 05 06 09 | danger | H225 H300+H330 H311 H314 H410
107-05-1 | 02 07 08 09 | danger | H225 H302+H312+H332 H315 H319 H335 H341 H351 H373 H400
107-18-6 | 02 06 09 | danger | H225 H301+H311+H331 H315 H319 H335 H400
62-53-3 | 05 06 08 09 | danger | H301+H311+H331 H317 H318 H341 H351 H372 H400
98-95-3 | 06 08 | danger | H301+H311+H331 H351 H360F H372 H412
100-42-5 | 02 07 08 | danger | H226 H315 H319 H332 H361d H372
100-41-4 | 02 07 08 | danger | H225 H304 H332 H373
98-82-8 | 02 07 08 09 | danger | H226 H304 H335 H350 H411
110-82-7 | 02 07 08 09 | danger | H225 H304 H315 H336 H410
109-66-0 | 02 07 08 09 | danger | H225 H304 H336 H411
111-65-9 | 02 07 08 09 | danger | H225 H304 H315 H336 H410
108-10-1 | 02 07 08 | danger | H225 H319 H332 H336 H351
108-94-1 | 02 07 | warning | H226 H332
123-91-1 | 02 07 08 | danger | H225 H319 H335 H350
110-86-1 | 02 07 | danger | H225 H302+H312+H332
121-44-8 | 02 05 07 | danger | H225 H302+H312+H332 H314
109-89-7 | 02 05 07 | danger | H225 H302+H312+H332 H314
141-43-5 | 05 07 | danger | H302+H312+H332 H314 H335
107-15-3 | 02 05 07 08 | danger | H226 H302+H312 H314 H317 H334
50-32-8 | 07 08 09 | danger | H317 H340 H350 H360FD H410
91-20-3 | 07 08 09 | warning | H302 H351 H410
95-50-1 | 07 09 | warning | H302 H315 H319 H335 H410
106-46-7 | 07 08 09 | warning | H319 H351 H410
108-90-7 | 02 07 09 | warning | H226 H315 H332 H411
71-55-6 | 07 | warning | H332 H420
107-06-2 | 02 06 08 | danger | H225 H302 H315 H319 H331 H335 H350
75-01-4 | 02 08 | danger | H220 H280 H350
75-15-0 | 02 07 08 | danger | H225 H315 H319 H361fd H372
74-90-8 | 02 06 09 | danger | H224 H330 H410
75-44-5 | 05 06 | danger | H280 H314 H330
7446-09-5 | 05 06 | danger | H280 H314 H331
10102-44-0 | 03 05 06 | danger | H270 H280 H314 H330
7782-41-4 | 03 05 06 | danger | H270 H280 H314 H330
7803-51-2 | 02 05 06 09 | danger | H220 H280 H314 H330 H400
7784-42-1 | 02 06 08 09 | danger | H220 H280 H330 H373 H410
7723-14-0 | 02 | danger | H228 H412
7553-56-2 | 07 09 | warning | H312+H332 H400
7664-38-2 | 05 | danger | H314
64-18-6 | 02 05 06 | danger | H226 H302 H314 H331
79-41-4 | 05 06 | danger | H302+H332 H311 H314 H335
80-62-6 | 02 07 | danger | H225 H315 H317 H335
140-88-5 | 02 06 | danger | H225 H302+H312 H315 H317 H319 H331 H335 H412
108-05-4 | 02 07 08 | danger | H225 H332 H335 H351
79-06-1 | 06 08 | danger | H301 H312+H332 H315 H317 H319 H340 H350 H361f H372
106-89-8 | 02 05 06 08 | danger | H226 H301+H311+H331 H314 H317 H350
75-56-9 | 02 06 08 | danger | H224 H302 H311+H331 H319 H335 H340 H350
108-24-7 | 02 05 07 | danger | H226 H302+H332 H314
107-21-1 | 07 | warning | H302
112-34-5 | 07 | warning | H319
111-76-2 | 06 | danger | H302 H315 H319 H331
110-80-5 | 02 06 08 | danger | H226 H302 H331 H360FD
109-86-4 | 02 07 08 | danger | H226 H302+H312+H332 H360FD
872-50-4 | 07 08 | danger | H315 H319 H335 H360D
127-19-5 | 07 08 | danger | H312+H332 H360D
67-68-5 |  |  | 
123-31-9 | 05 07 08 09 | danger | H302 H317 H318 H341 H351 H400
106-44-5 | 05 06 | danger | H301+H311 H314
1319-77-3 | 05 06 | danger | H301+H311 H314
101-68-8 | 07 08 | danger | H315 H317 H319 H332 H334 H335 H351 H373
822-06-0 | 06 08 | danger | H315 H317 H319 H331 H334 H335
1333-82-0 | 03 05 06 08 09 | danger | H271 H301+H311 H314 H317 H330 H334 H340 H350 H361f H372 H410
7758-98-7 | 05 07 09 | danger | H302 H318 H410
7646-85-7 | 05 07 09 | danger | H302 H314 H410
7761-88-8 | 03 05 09 | danger | H272 H314 H410
7631-99-4 | 03 07 | warning | H272 H319
6484-52-2 | 03 07 | warning | H272 H319
7757-79-1 | 03 | warning | H272
10043-35-3 | 08 | danger | H360FD
1303-96-4 | 08 | danger | H360FD
1327-53-3 | 05 06 08 09 | danger | H300 H314 H350 H410
7440-38-2 | 06 09 | danger | H301+H331 H410
7440-43-9 | 06 08 09 | danger | H330 H341 H350 H361fd H372 H410
10108-64-2 | 06 08 09 | danger | H301 H330 H340 H350 H360FD H372 H410
7440-66-6 | 09 | warning | H410
1314-13-2 | 09 | warning | H410
7429-90-5 | 02 | danger | H228 H261
7439-95-4 | 02 | danger | H228 H251 H261
7440-70-2 | 02 | danger | H261
7440-09-7 | 02 05 | danger | H260 H314
7646-69-7 | 02 | danger | H260
12125-02-9 | 07 | warning | H302 H319
7783-20-2 |  |  | 
1305-62-0 | 05 07 | danger | H315 H318 H335
144-55-8 |  |  | 
77-92-9 | 07 | warning | H319 H335
144-62-7 | 07 | warning | H302+H312
7681-49-4 | 06 | danger | H301 H315 H319
7681-57-4 | 05 07 | danger | H302 H318
7775-14-6 | 02 07 | danger | H251 H302
7601-89-0 | 03 07 | danger | H271 H302
7790-98-9 | 01 | danger | H201 H271
7778-74-7 | 03 07 | danger | H271 H302
65996-93-2 | 08 09 | danger | H340 H350 H360FD H410
8001-58-9 | 08 | danger | H350
8006-64-2 | 02 07 08 09 | danger | H226 H302+H312+H332 H304 H315 H317 H319 H411
68334-30-5 | 02 07 08 09 | danger | H226 H304 H315 H332 H351 H373 H411
106-97-8 | 02 | danger | H220 H280
75-28-5 | 02 | danger | H220 H280
74-82-8 | 02 | danger | H220 H280
124-38-9 | 04 | warning | H280
7440-37-1 | 04 | warning | H280
7440-59-7 | 04 | warning | H280
75-12-7 | 08 | danger | H360D
118-96-7 | 01 06 08 09 | danger | H201 H301+H311+H331 H373 H411
88-89-1 | 01 06 | danger | H201 H301+H311+H331
80-15-9 | 02 05 06 08 09 | danger | H242 H302+H312 H314 H331 H373 H411
1338-23-4 | 02 05 07 | danger | H242 H302+H332 H314`

func TestLabelsOfSubstances(t *testing.T) {
	rows := strings.Split(strings.TrimSpace(labels), "\n")
	require.GreaterOrEqual(t, len(rows), 150)
	book := hazard.Shipped()
	for _, row := range rows {
		cells := strings.Split(row, "|")
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		s, err := book.Substance(cells[0])
		require.NoError(t, err)
		label, err := book.SubstanceLabel(s, hazard.Wanted{})
		require.NoError(t, err)
		require.Equal(t, cells[1], strings.ReplaceAll(codes(label.Pictograms), "GHS", ""), s.Names["en"])
		require.Equal(t, cells[2], string(label.Signal), s.Names["en"])
		require.Equal(t, cells[3], codes(label.Hazards), s.Names["en"])
		require.LessOrEqual(t, len(label.Precautions), hazard.Customary)
		for _, r := range append(append(label.Pictograms, label.Hazards...), label.Precautions...) {
			require.NotEmpty(t, r.Because, "%s of %s", r.Code, s.Names["en"])
			require.NotEmpty(t, r.Text)
		}
	}
}

func label(t *testing.T, classes string, w hazard.Wanted) *hazard.Label {
	book := hazard.Shipped()
	if w.Rules == "" {
		w.Rules = hazard.CLP
	}
	classified, err := book.Parse(classes, w.Rules)
	require.NoError(t, err, classes)
	l, err := book.Label(classified, w)
	require.NoError(t, err, classes)
	return l
}

func TestPrecedenceOfPictograms(t *testing.T) {
	for _, test := range []struct {
		rules   hazard.RuleSet
		classes string
		want    string
		why     string // one left out and its reason
	}{
		{hazard.CLP, "Expl. 1.1; Flam. Liq. 2; Ox. Sol. 1", "GHS01", "GHS02: the exploding bomb makes it optional"},
		{hazard.GHS, "Expl. 1.1; Flam. Liq. 2", "GHS01 GHS02", ""},
		{hazard.CLP, "Self-react. B", "GHS01 GHS02", ""},
		{hazard.CLP, "Self-react. B; Ox. Sol. 2", "GHS01 GHS02", "GHS03: the exploding bomb"},
		{hazard.CLP, "Acute Tox. 2 (oral); Skin Irrit. 2; Skin Sens. 1", "GHS06", "GHS07: the skull"},
		{hazard.GHS, "Acute Tox. 3 (dermal); Acute Tox. 4 (oral)", "GHS06", "GHS07: the skull"},
		{hazard.CLP, "Eye Dam. 1; Skin Irrit. 2", "GHS05", "GHS07: the corrosion"},
		{hazard.CLP, "Eye Dam. 1; Skin Irrit. 2; Skin Sens. 1", "GHS05 GHS07", ""},
		{hazard.CLP, "Met. Corr. 1; Skin Irrit. 2", "GHS05 GHS07", ""},
		{hazard.CLP, "Resp. Sens. 1; Skin Sens. 1; Eye Irrit. 2", "GHS08", "GHS07: the health hazard"},
		{hazard.CLP, "Carc. 2; Skin Sens. 1", "GHS07 GHS08", ""},
		{hazard.CLP, "Resp. Sens. 1; STOT SE 3 (H335)", "GHS07 GHS08", ""},
		{hazard.CLP, "Flam. Gas 1A; Press. Gas (Liq.)", "GHS02", "GHS04: the flame"},
		{hazard.GHS, "Flam. Gas 1A; Press. Gas (Liq.)", "GHS02 GHS04", ""},
		{hazard.HazCom, "Flam. Liq. 2; Aquatic Chronic 2", "GHS02", "H411: HazCom does not cover"},
		{hazard.CLP, "Aquatic Chronic 3", "", ""},
		{hazard.CLP, "Ozone 1", "GHS07", ""},
	} {
		l := label(t, test.classes, hazard.Wanted{Rules: test.rules})
		require.Equal(t, test.want, codes(l.Pictograms), "%+v", test)
		if test.why != "" {
			code, why, _ := strings.Cut(test.why, ": ")
			found := ""
			for _, out := range l.LeftOut {
				if out.Code == code {
					found = out.Why
				}
			}
			require.Contains(t, found, why, "%+v", test)
		}
	}
}

func TestStatements(t *testing.T) {
	l := label(t, "Skin Corr. 1B; Eye Dam. 1; Aquatic Acute 1; Aquatic Chronic 1; STOT RE 2 (kidneys); Repr. 1B "+
		"(FD); Carc. 1A (inhalation)", hazard.Wanted{})
	require.Equal(t, "H314 H350i H360FD H373 H410", codes(l.Hazards))
	require.Equal(t, "May cause damage to organs through prolonged or repeated exposure (kidneys).", l.Hazards[3].Text)
	require.Equal(t, "Danger", l.SignalWord)
	require.NotContains(t, l.SignalOf, "STOT RE 2 (kidneys)", "which asks for the lower word")

	german := label(t, "Acute Tox. 4 (oral); Acute Tox. 4 (inhalation)", hazard.Wanted{Language: "de"})
	require.Equal(t, "H302+H332", codes(german.Hazards))
	require.Equal(t, []string{"Achtung", "Gesundheitsschädlich bei Verschlucken oder Einatmen."},
		[]string{german.SignalWord, german.Hazards[0].Text})
	mixed := label(t, "Acute Tox. 3 (oral); Acute Tox. 4 (dermal)", hazard.Wanted{Language: "fr"})
	require.Equal(t, "H301 H312", codes(mixed.Hazards), "levels are not joined")

	public := label(t, "Flam. Liq. 2; Eye Irrit. 2", hazard.Wanted{Public: true})
	require.Contains(t, codes(public.Precautions), "P102")
	require.Contains(t, codes(public.Precautions), "P501")
	require.Len(t, public.Precautions, 6)
	work := label(t, "Skin Corr. 1A; Acute Tox. 2 (inhalation)", hazard.Wanted{})
	require.Contains(t, codes(work.Precautions), "P305+P351+P338")
	require.NotContains(t, codes(work.Precautions), "P261", "P260 says it better")
}

func TestClassificationsAreReadAsTheyAreWritten(t *testing.T) {
	for text, want := range map[string]string{
		"flam liq 2, acute tox. 3 oral":          "", // a route without brackets is asked for
		"Flam. Liq. 2, H225; Eye Irrit. 2, H319": "H225 H319", "Flammable liquids, Category 2": "H225",
		"Acute toxicity, Category 3 (dermal)": "H311",
		"Flammable liquid 3":                  "H226", "H225; H319": "H225 H319", "STOT SE 3 H336": "H336",
		"Acute Tox. 4 * (H302)": "H302", "H360Fd": "", "Repr. 1B H360Df": "H360Df",
		"Flam. Liq. 2 (H225) | Asp. Tox. 1": "H225 H304",
		"Press. Gas (Ref. Liq.)":            "H281", "ED HH 1": "",
		"Flam. Gas 1A (unstable A); Flam. Gas 1A (pyrophoric)": "H220 H230 H232",
		"STOT SE 1 (liver); STOT SE 2 (eyes)":                  "H370 H371",
		"Acute Tox. 3 (oral, dermal)":                          "H301+H311",
		"Acute toxicity, Oral (Category 3), H301":              "H301",
		"Acute toxicity, Category 4, Inhalation":               "H332", "Acute Tox. 2 inhalation": "H330",
		"Serious eye damage/eye irritation, Category 2": "H319", "Skin corrosion/irritation - Category 1B": "H314",
		"Skin sensitization Category 1": "H317", "Oxidizing liquids, Category 2": "H272",
		"Carcinogenicity, Category 2": "H351", "Aspiration hazard, Category 1": "H304",
		"Specific target organ toxicity, single exposure, Category 3 (H336)": "H336",
		"Gases under pressure (compressed)":                                  "H280",
		"Lact.":                                                              "H362", "H314": "",
		"Skin Corr. 1": "H314", "Expl. 1.4": "H204", "Explosives, Division 1.4": "H204",
		"Org. Perox. Type D": "H242",
	} {
		classified, err := hazard.Shipped().Parse(text, hazard.CLP)
		if want == "" && err != nil {
			require.IsType(t, &refusal.Error{}, err, text)
			continue
		}
		require.NoError(t, err, text)
		l, err := hazard.Shipped().Label(classified, hazard.Wanted{})
		require.NoError(t, err)
		if want != "" {
			require.Equal(t, want, codes(l.Hazards), text)
		}
	}
}

func TestWrongClassificationsAreTold(t *testing.T) {
	for text, says := range map[string]string{
		"": "No class is given", "Flam. Liq. 9": "there are Flam. Liq. 1, Flam. Liq. 2, Flam. Liq. 3",
		"Glorious 2": "is no hazard class", "Acute Tox. 3": "oral, dermal, inhalation",
		"Flam. Liq. 2; Flam. Liq. 3": "contradict", "Acute Tox. 3 (oral); Acute Tox. 4 (oral)": "contradict",
		"Skin Corr. 1A; Skin Irrit. 2": "contradict", "Flam. Liq. 2; Flam. Sol. 1": "contradict",
		"Eye Dam. 1; Eye Irrit. 2": "contradict", "Press. Gas (Liq.); Press. Gas (Comp.)": "contradict",
		"STOT RE 1; STOT RE 2": "contradict", "Flam. Liq. 2 H301": "H301 does not belong",
		"Acute Tox. 5 (oral)": "no class under these rules",
		"STOT SE 3":           "respiratory irritation, narcotic effects", "H999": "is no hazard class",
		"H242": "say which is meant", "Eye Irrit. 2B": "no class under these rules",
	} {
		_, err := hazard.Shipped().Parse(text, hazard.CLP)
		require.IsType(t, &refusal.Error{}, err, text)
		require.ErrorContains(t, err, says, text)
	}
	_, err := hazard.Shipped().Label(nil, hazard.Wanted{Language: "kl"})
	require.ErrorContains(t, err, "en, de, fr, es")
	_, err = hazard.Shipped().Label(nil, hazard.Wanted{Rules: "reach"})
	require.ErrorContains(t, err, "ghs, clp and hazcom")
}

// What a substance is called and how it is carried depends on its strength and state (UN Model Regulations, 3.2; CLP,
// annex VI).
func TestSubstancesHaveStates(t *testing.T) {
	book := hazard.Shipped()
	for id, want := range map[string][4]string{ // UN number, class, packing group, of the classification
		"7647-01-0":                                      {"1050", "2.3 (8)", "", "Press. Gas"},
		"7647-01-0 in water, from 25 %":                  {"1789", "8", "II", "Skin Corr. 1B"},
		"7664-39-3 in water, over 60 %":                  {"1790", "8 (6.1)", "I", "Acute Tox. 1 (dermal)"},
		"1310-73-2 in water, from 5 %":                   {"1824", "8", "II", "Skin Corr. 1A"},
		"7722-84-1 in water, 35 to under 50 %":           {"2014", "5.1 (8)", "II", "Eye Dam. 1"},
		"7722-84-1 in water, 8 to under 20 %":            {"2984", "5.1", "III", "Eye Dam. 1"},
		"7697-37-2":                                      {"2031", "8 (5.1)", "I", "Ox. Liq. 2"},
		"7697-37-2 in water, 65 to 70 %":                 {"2031", "8 (5.1)", "II", "Ox. Liq. 3"},
		"7664-93-9 in water, 15 to 51 %":                 {"2796", "8", "II", "Skin Corr. 1A"},
		"7727-37-9 refrigerated liquid":                  {"1977", "2.2", "", "Press. Gas (Ref. Liq.)"},
		"7782-44-7 refrigerated liquid":                  {"1073", "2.2 (5.1)", "", "Ox. Gas 1"},
		"7440-37-1 refrigerated liquid":                  {"1951", "2.2", "", "Press. Gas (Ref. Liq.)"},
		"124-38-9 solid (dry ice)":                       {"1845", "9", "", ""},
		"1336-21-6 in water, 10 to 24.9 %":               {"2672", "8", "III", "Skin Corr. 1B"},
		"7664-41-7 liquefied under pressure":             {"1005", "2.3 (8)", "", "Acute Tox. 3 (inhalation)"},
		"7681-52-9 in water, 12 to 16 % active chlorine": {"1791", "8", "II", "Skin Corr. 1B"},
	} {
		s, err := book.Substance(id)
		require.NoError(t, err, id)
		require.Equal(t, id, s.ID())
		require.Equal(t, []string{want[0], want[1], want[2]}, []string{s.UN, s.Transport, s.PackingGroup}, id)
		require.Contains(t, s.Classification, want[3], id)
	}
	require.GreaterOrEqual(t, len(book.Substances), 600)
	for i := range book.Substances {
		s := &book.Substances[i]
		require.NotEmpty(t, s.From(), "%s says where it is from", s.ID())
		for _, language := range hazard.Languages[:4] {
			require.NotEmpty(t, s.Names[language], s.ID())
			label, err := book.SubstanceLabel(s, hazard.Wanted{Language: language})
			require.NoError(t, err, s.ID())
			require.Equal(t, s.Classification == "", label.SignalWord == "" && len(label.Hazards) == 0, s.ID())
		}
	}
	_, err := book.Substance("7647-01-0 as a powder")
	require.ErrorContains(t, err, "is no CAS number")
}

func TestContainersAskForSizes(t *testing.T) {
	for volume, want := range map[float64][5]float64{ // CLP, annex I, table 1.3, with the letters of (EU) 2024/2865
		500: {74, 52, 16, 10, 1.2}, 501: {74, 52, 16, 10, 1.4}, 3000: {74, 52, 16, 10, 1.4},
		3001: {105, 74, 23, 23, 1.8}, 50_000: {105, 74, 23, 23, 1.8}, 200_000: {148, 105, 32, 32, 2},
		1_000_000: {210, 148, 46, 46, 2},
	} {
		size := label(t, "Flam. Liq. 2", hazard.Wanted{Volume: volume}).Size
		require.Equal(t, want, [5]float64{size.Width, size.Height, size.Pictogram, size.Smallest, size.Letters},
			"%g ml", volume)
	}
	require.Nil(t, label(t, "Flam. Liq. 2", hazard.Wanted{Rules: hazard.GHS, Volume: 500}).Size,
		"the GHS names no sizes")
	require.Contains(t, label(t, "Flam. Liq. 2; Carc. 2", hazard.Wanted{Volume: 100}).Small,
		"only Flam. Liq. 2 ask for may be left off")
	require.Empty(t, label(t, "Carc. 1A", hazard.Wanted{Volume: 100}).Small)
	require.Empty(t, label(t, "Flam. Liq. 2", hazard.Wanted{Volume: 126}).Small)
	require.Empty(t, label(t, "Acute Tox. 4 (oral)", hazard.Wanted{Volume: 50, Public: true}).Small)
	require.Contains(t, label(t, "Carc. 1A", hazard.Wanted{Rules: hazard.HazCom, Volume: 2}).Small,
		"product identifier alone")
	_, err := hazard.Shipped().Label(nil, hazard.Wanted{Volume: -1})
	require.ErrorContains(t, err, "-1 ml")
}

func TestMixtures(t *testing.T) {
	for _, test := range []struct {
		parts, want string
		form        hazard.Form
	}{
		// worked by hand from CLP, annex I
		{"6% Skin Corr. 1B", "Skin Corr. 1B; Eye Dam. 1", hazard.Dust},
		{"3% Skin Corr. 1A; 3% Skin Corr. 1B", "Skin Corr. 1B; Eye Dam. 1", hazard.Dust},
		{"2% Skin Corr. 1A", "Skin Irrit. 2; Eye Irrit. 2", hazard.Dust},
		{"0.5% Skin Corr. 1A; 5% Skin Irrit. 2", "Skin Irrit. 2", hazard.Dust}, // 10 × 0.5 + 5 = 10; eyes: 10 × 0.5 = 5
		{"9% Skin Irrit. 2", "", hazard.Dust},
		{"12% Eye Irrit. 2", "Eye Irrit. 2", hazard.Dust},
		{"2% Eye Dam. 1", "Eye Irrit. 2", hazard.Dust},
		{"10% Acute Tox. 3 (oral)", "Acute Tox. 4 (oral)", hazard.Dust},              // 100/(10/100) = 1000
		{"50% Acute Tox. 3 (oral)", "Acute Tox. 3 (oral)", hazard.Dust},              // 200
		{"20% Acute Tox. 4 (oral)", "", hazard.Dust},                                 // 2500
		{"30% Acute Tox. 4 (oral)", "Acute Tox. 4 (oral)", hazard.Dust},              // 1667
		{"20% Acute Tox. 4 (oral); 30% unknown", "Acute Tox. 4 (oral)", hazard.Dust}, // 70/(20/500) = 1750
		// 100/(10/0.05) = 0.5, the bound of category 1
		{"10% Acute Tox. 1 (inhalation)", "Acute Tox. 1 (inhalation)", hazard.Vapour},
		{"1% Acute Tox. 2 (inhalation)", "Acute Tox. 4 (inhalation)", hazard.Gas}, // 100/(1/100) = 10000 ppmV
		{"0.2% Carc. 1B", "Carc. 1B", hazard.Dust}, {"0.05% Carc. 1B", "", hazard.Dust},
		{"2% Carc. 2", "Carc. 2", hazard.Dust},
		{"0.3% Repr. 1B", "Repr. 1B", hazard.Dust}, {"2.9% Repr. 2", "", hazard.Dust},
		{"0.5% Skin Sens. 1A", "Skin Sens. 1", hazard.Dust}, {"0.5% Skin Sens. 1B", "", hazard.Dust},
		{"0.5% Resp. Sens. 1", "", hazard.Dust}, {"0.5% Resp. Sens. 1", "Resp. Sens. 1", hazard.Gas},
		{"5% STOT RE 1", "STOT RE 2", hazard.Dust}, {"10% STOT RE 1", "STOT RE 1", hazard.Dust},
		{"15% STOT SE 3 (narcotic effects); 6% STOT SE 3 (narcotic effects)", "STOT SE 3 (narcotic effects)",
			hazard.Dust},
		{"25% Aquatic Acute 1", "Aquatic Acute 1", hazard.Dust}, {"3% Aquatic Chronic 1", "Aquatic Chronic 2",
			hazard.Dust}, {"0.3% Aquatic Chronic 1", "Aquatic Chronic 3", hazard.Dust},
		{"10% Aquatic Chronic 2; 15% Aquatic Chronic 3", "Aquatic Chronic 3", hazard.Dust},
		{"25% Aquatic Chronic 4", "Aquatic Chronic 4", hazard.Dust}, {"24% Aquatic Chronic 4", "", hazard.Dust},
	} {
		parts, err := hazard.Shipped().ParseMixture(test.parts, hazard.CLP, test.form)
		require.NoError(t, err, test.parts)
		mixed, err := hazard.Shipped().Mix(&hazard.Mixture{Parts: parts, Form: test.form}, hazard.CLP)
		require.NoError(t, err, test.parts)
		require.Equal(t, test.want, mixed.Classification, "%s: %s", test.parts, strings.Join(mixed.Steps, "\n"))
	}
	factor := []hazard.Part{{Name: "biocide", Percent: 0.3, MAcute: 100, MChron: 100}}
	factor[0].Classes, _ = hazard.Shipped().Parse("Aquatic Acute 1; Aquatic Chronic 1", hazard.CLP)
	mixed, err := hazard.Shipped().Mix(&hazard.Mixture{Parts: factor, Form: hazard.Dust}, hazard.CLP)
	require.NoError(t, err)
	require.Equal(t, "Aquatic Acute 1; Aquatic Chronic 1", mixed.Classification)
	known := []hazard.Part{{Name: "own estimate", Percent: 50, ATE: map[string]float64{"oral": 800}}}
	mixed, err = hazard.Shipped().Mix(&hazard.Mixture{Parts: known, Form: hazard.Dust}, hazard.CLP)
	require.NoError(t, err)
	require.Equal(t, "Acute Tox. 4 (oral)", mixed.Classification)
	require.Contains(t, mixed.Steps[0], "ATE = 100 / (50/800 (own estimate, given)) = 1600 mg/kg")
	flammable, _ := hazard.Shipped().ParseMixture("40% 64-17-5", hazard.CLP, hazard.Dust)
	mixed, err = hazard.Shipped().Mix(&hazard.Mixture{Parts: flammable, Form: hazard.Dust}, hazard.CLP)
	require.NoError(t, err)
	require.Equal(t, "flash point", mixed.Open[0].ID)
}

// Limits of annex VI, part 3, worked by hand.
func TestSubstancesHaveLimitsOfTheirOwn(t *testing.T) {
	for _, test := range []struct{ parts, want string }{
		{"5% 1310-73-2", "Skin Corr. 1A; Eye Dam. 1"}, {"3% 1310-73-2", "Skin Corr. 1B; Eye Dam. 1"},
		{"2% 1310-73-2", "Skin Corr. 1B; Eye Dam. 1"},
		{"1% 1310-73-2", "Skin Irrit. 2; Eye Irrit. 2"}, {"0.4% 1310-73-2", ""},
		// 1.5/2 + 1.5/2 is above 1; for 1A 1.5/5 + 1.5/5 is not
		{"1.5% 1310-73-2; 1.5% 1310-58-3", "Skin Corr. 1B; Eye Dam. 1"},
		{"1% 1310-73-2; 5% 7664-38-2", "Skin Irrit. 2; Eye Irrit. 2"}, // 1/2 + 5/25; 1/0.5 + 5/10
		{"24% 7664-38-2", "Skin Irrit. 2; Eye Irrit. 2"}, {"25% 7664-38-2", "Skin Corr. 1B; Eye Dam. 1"},
		{"9% 7664-38-2", ""},
		// 0.4/1 + 6.9/10
		{"0.3% Skin Corr. 1A; 6.9% 7664-38-2", ""},
		{"0.4% Skin Corr. 1A; 6.9% 7664-38-2", "Skin Irrit. 2; Eye Irrit. 2"},
		// below its own limit of Skin Corr. 1B; nothing of its own for eyes
		{"3% 7697-37-2", "Skin Irrit. 2; Eye Dam. 1"},
		{"7% 7722-84-1", "Eye Irrit. 2"}, {"10% 7722-84-1", "Eye Dam. 1"}, {"4% 7722-84-1", ""},
		{"4% 67-56-1", "STOT SE 2"}, {"2% 67-56-1", ""}, {"0.3% 50-00-0", "Carc. 1B; Skin Sens. 1"},
		{"4% 1336-21-6", "Skin Irrit. 2; Eye Dam. 1"},
		{"5% 1336-21-6", "Skin Corr. 1B; Eye Dam. 1; STOT SE 3 (respiratory irritation)"},
		{"3% 7681-52-9", "Skin Irrit. 2; Eye Dam. 1; Aquatic Acute 1; Aquatic Chronic 2"}, // factors 10 and 1
	} {
		parts, err := hazard.Shipped().ParseMixture(test.parts, hazard.CLP, hazard.Dust)
		require.NoError(t, err, test.parts)
		mixed, err := hazard.Shipped().Mix(&hazard.Mixture{Parts: parts, Form: hazard.Dust}, hazard.CLP)
		require.NoError(t, err, test.parts)
		require.Equal(t, test.want, mixed.Classification, "%s: %s", test.parts, strings.Join(mixed.Steps, "\n"))
	}
	parts, _ := hazard.Shipped().ParseMixture("3% 1310-73-2", hazard.CLP, hazard.Dust)
	mixed, _ := hazard.Shipped().Mix(&hazard.Mixture{Parts: parts, Form: hazard.Dust}, hazard.CLP)
	require.Contains(t, mixed.Steps[0],
		"Sodium hydroxide has limits of its own: Skin Corr. 1A from 5 %, Skin Corr. 1B from 2 %")
	for text, says := range map[string]string{
		"Skin Corr. 1B": "is no limit; write like", "Skin Corr. 1B: five": "is no limit",
		"Skin Corr. 1B: 5-2": "is no limit", "M: Inf": "is no limit", "Skin Corr. 1B: 0": "is no limit",
		"Nosuch. 1: 5":       "no hazard class",
		"Skin Corr. 1B: 101": "at most 100", "Flam. Liq. 2, Eye Irrit. 2: 5": "one class",
	} {
		_, err := hazard.Shipped().ParseLimits(text)
		require.IsType(t, &refusal.Error{}, err, text)
		require.ErrorContains(t, err, says)
	}
}

func TestWrongMixturesAreTold(t *testing.T) {
	for text, says := range map[string]string{
		"60% 67-64-1; 50% 64-17-5": "more than the mixture", "110% 67-64-1": "is no concentration",
		"0% 67-64-1": "is no concentration", "67-64-1": "no part of a mixture", "5% 67-64-2": "check digit",
		"5% Nosuch. 1": "is no hazard class", "": "at least one part",
	} {
		parts, err := hazard.Shipped().ParseMixture(text, hazard.CLP, hazard.Dust)
		if err == nil {
			_, err = hazard.Shipped().Mix(&hazard.Mixture{Parts: parts, Form: hazard.Dust}, hazard.CLP)
		}
		require.IsType(t, &refusal.Error{}, err, text)
		require.ErrorContains(t, err, says)
	}
	_, err := hazard.Shipped().Mix(&hazard.Mixture{Parts: []hazard.Part{{Percent: 1}}, Form: "oral"}, hazard.CLP)
	require.ErrorContains(t, err, "gas, vapour and dust")
}

func TestSubstancesAreFound(t *testing.T) {
	book := hazard.Shipped()
	require.GreaterOrEqual(t, len(book.Substances), 120)
	for words, want := range map[string]string{"isopropanol": "67-63-0", "Essigsäure": "64-19-7",
		"7664-93": "7664-93-9", "UN1090": "67-64-1", "lye": "1310-73-2", "231-595-7": "7647-01-0", "C7H8": "108-88-3",
		"acétone": "67-64-1"} {
		found := book.Search(words, 5)
		require.NotEmpty(t, found, words)
		require.Equal(t, want, found[0].CAS, words)
	}
	require.Empty(t, book.Search(" ", 5))
	for number, says := range map[string]string{"67-64-2": "check digit of the CAS number 67-64-2 should be 1",
		"acetone": "is no CAS number", "50-99-7": "is not among the"} {
		_, err := book.Substance(number)
		require.ErrorContains(t, err, says)
	}
	long, err := book.Substance("67–64–1")
	require.NoError(t, err, "with the dashes of a text")
	require.Equal(t, "Aceton", long.Names["de"])
	for i := range book.Substances {
		for _, rules := range hazard.RuleSets {
			_, err := book.SubstanceLabel(&book.Substances[i], hazard.Wanted{Rules: rules, Language: "es"})
			require.NoError(t, err, book.Substances[i].CAS)
		}
	}
}

func TestSubstancesOfOnesOwnGoFirst(t *testing.T) {
	own := hazard.Substance{CAS: "50-99-7", Names: map[string]string{"en": "Kelp wash"}, Classification: "Eye Irrit. 2",
		UN: "1760"}
	other := hazard.Substance{CAS: "64-17-5", Names: map[string]string{"en": "Our ethanol"},
		Classification: "Flam. Liq. 2; Eye Irrit. 2"}
	book, err := hazard.Shipped().With([]hazard.Substance{own, other})
	require.NoError(t, err)
	found, err := book.Substance("50-99-7")
	require.NoError(t, err)
	require.Equal(t, hazard.OwnOne, found.Own)
	found, err = book.Substance("64-17-5")
	require.NoError(t, err)
	require.Equal(t, hazard.Changed, found.Own)
	label, err := book.SubstanceLabel(found, hazard.Wanted{})
	require.NoError(t, err)
	require.Equal(t, "H225 H319", codes(label.Hazards))
	shipped, err := hazard.Shipped().Substance("64-17-5")
	require.NoError(t, err)
	require.Equal(t, hazard.OfTheBook, shipped.Own, "the book itself stays as it is")
	for says, wrong := range map[string]hazard.Substance{
		"check digit": {CAS: "50-99-8", Names: own.Names}, "name in English": {CAS: "50-99-7"},
		"no hazard class": {CAS: "50-99-7", Names: own.Names, Classification: "Nosuch 1"},
		"four digits":     {CAS: "50-99-7", Names: own.Names, UN: "17"}, "no EC number": {CAS: "50-99-7", EC: "1",
			Names: own.Names}, "is no statement": {CAS: "50-99-7", Names: own.Names, Supplemental: []string{"EUH999"}},
		"is no limit": {CAS: "50-99-7", Names: own.Names, Limits: "5"},
	} {
		_, err := hazard.Shipped().With([]hazard.Substance{wrong})
		require.ErrorContains(t, err, says)
	}
}

func TestBooksThatAreWrongAreRefused(t *testing.T) {
	good := fstest.MapFS{
		"statements.tsv": {Data: []byte("code\ten\tde\tfr\tes\nH225\ta\tb\tc\td\n")},
		"classes.tsv": {Data: []byte("1\t2\t3\t4\t5\t6\t7\t8\t9\nFlam. Liq.\t2\t\tFlammable " +
			"liquids\tGHS02\tdanger\tH225\t\t\n")},
		"substances.tsv": {Data: []byte(
			"1\t2\t3\t4\t5\t6\t7\t8\t9\t10\t11\t12\t13\t14\n67-64-1\t\t\ta\tb\tc\td\t\tFlam. Liq. 2\t\t\t\t\t\n")},
	}
	book, err := hazard.Read(good)
	require.NoError(t, err)
	require.Equal(t, []string{"H225"}, book.Codes())
	for name, change := range map[string][2]string{
		"statements.tsv, line 2: H225 says nothing": {"statements.tsv", "code\ten\tde\tfr\tes\nH225\ta\t\tc\td\n"},
		"classes.tsv, line 1: 3 columns, not 9":     {"classes.tsv", "1\t2\t3\n"},
		"H226 is no statement": {"classes.tsv",
			"1\t2\t3\t4\t5\t6\t7\t8\t9\nFlam. Liq.\t2\t\tF\tGHS02\tdanger\tH226\t\t\n"},
		"check digit": {"substances.tsv",
			"1\t2\t3\t4\t5\t6\t7\t8\t9\t10\t11\t12\t13\t14\n67-64-2\t\t\ta\tb\tc\td\t\t\t\t\t\t\t\n"},
		"is no hazard class": {"substances.tsv",
			"1\t2\t3\t4\t5\t6\t7\t8\t9\t10\t11\t12\t13\t14\n67-64-1\t\t\ta\tb\tc\td\t\tNosuch 1\t\t\t\t\t\n"},
	} {
		files := fstest.MapFS{}
		for n, f := range good {
			files[n] = f
		}
		files[change[0]] = &fstest.MapFile{Data: []byte(change[1])}
		_, err := hazard.Read(files)
		require.ErrorContains(t, err, name)
	}
	_, err = hazard.Read(fstest.MapFS{})
	require.ErrorIs(t, err, fs.ErrNotExist)
}

func FuzzParse(f *testing.F) {
	f.Add("Flam. Liq. 2; Acute Tox. 3 (oral)")
	f.Add("H360FD, STOT SE 3 (H335)")
	f.Fuzz(func(t *testing.T, text string) {
		classified, err := hazard.Shipped().Parse(text, hazard.GHS)
		if err != nil {
			require.IsType(t, &refusal.Error{}, err)
			return
		}
		_, err = hazard.Shipped().Label(classified, hazard.Wanted{Rules: hazard.GHS})
		require.NoError(t, err)
	})
}

func ExampleBook_Label() {
	book := hazard.Shipped()
	classes, _ := book.Parse("Flam. Liq. 2; Eye Irrit. 2", hazard.CLP)
	label, _ := book.Label(classes, hazard.Wanted{Language: "de"})
	fmt.Println(label.Pictograms[0].Code, label.Pictograms[1].Code, label.SignalWord, label.Hazards[0].Text)
	// Output: GHS02 GHS07 Gefahr Flüssigkeit und Dampf leicht entzündbar.
}

// What a class names besides is in the language of the label, and what cannot be is told.
func TestOrgansAreNamedInTheLanguage(t *testing.T) {
	german := label(t, "STOT RE 1 (hearing organs); STOT RE 2 (spleen, liver)", hazard.Wanted{Language: "de"})
	require.Contains(t, german.Hazards[0].Text, "(Hörorgane).")
	require.Contains(t, german.Hazards[1].Text, "(spleen, Leber).")
	require.Contains(t, german.Hazards[1].Why, "“spleen” stands as it was given")
	require.Contains(t, label(t, "Repr. 2", hazard.Wanted{Language: "fr"}).Hazards[0].Text,
		"à la fertilité ou au fœtus")
}

// A blank of a statement is filled, or no label is made of it (CLP, annex IV).
func TestBlanksAreFilled(t *testing.T) {
	text := func(l *hazard.Label, code string) string {
		for _, p := range l.Precautions {
			if p.Code == code {
				return p.Text
			}
		}
		return ""
	}
	l := label(t, "Org. Perox. D; Acute Tox. 4 (oral); Flam. Liq. 2", hazard.Wanted{Rules: hazard.HazCom})
	require.Equal(t, []string{"P370+P378", "P411", "P501"}, l.Blanks)
	require.Equal(t, "Use explosion-proof electrical/ventilating/lighting equipment.", text(l, "P241"),
		"choices that are named are enough")
	require.Equal(t, "Wash hands thoroughly after handling.", text(l, "P264"))
	require.Equal(t, "Store at temperatures not exceeding … °C/… °F.", text(l, "P411"))
	for fill, want := range map[string][2]string{"P411 = 30": {"P411", "Store at temperatures not exceeding 30 °C."},
		"P411=30/86":                     {"P411", "Store at temperatures not exceeding 30 °C/86 °F."},
		"P501 = an approved waste plant": {"P501", "Dispose of contents/container to an approved waste plant."},
		"P301+P312 = first-aider": {"P301+P312",
			"IF SWALLOWED: Call a POISON CENTER/doctor/first-aider if you feel unwell."},
		"P370+P378 = foam\nP241 = switching": {"P241",
			"Use explosion-proof electrical/ventilating/lighting/switching equipment."}} {
		said, err := hazard.Shipped().ParseFill(fill)
		require.NoError(t, err)
		filled := label(t, "Org. Perox. D; Acute Tox. 4 (oral); Flam. Liq. 2",
			hazard.Wanted{Rules: hazard.HazCom, Fill: said})
		require.Equal(t, want[1], text(filled, want[0]))
		require.NotContains(t, filled.Blanks, want[0])
	}
	for _, wrong := range []string{"P501", "P280 = gloves", "P999 = x", "P501 = "} {
		_, err := hazard.Shipped().ParseFill(wrong)
		require.ErrorContains(t, err, "blank", wrong)
	}
	_, _, err := hazard.Shipped().LookUp([]string{"cas"}, [][]string{{"1314-13-2"}}, "cas", hazard.Wanted{})
	require.ErrorContains(t, err, "Record 1: P501 has a blank")
	for _, language := range hazard.Languages { // with all that has a blank filled, none is left in any language
		fill := map[string]string{}
		for _, code := range []string{"P230", "P250", "P320", "P321", "P370+P378", "P370+P380+P375+P378", "P401",
			"P406", "P411", "P413", "P501", "P503"} {
			fill[code] = "x"
			if code == "P413" {
				fill[code] = "100/30"
			}
		}
		for i := range hazard.Shipped().Classes {
			c := hazard.Shipped().Classes[i].String()
			classes, err := hazard.Shipped().Parse(c, hazard.GHS)
			if err != nil {
				continue
			}
			l, err := hazard.Shipped().Label(classes, hazard.Wanted{Rules: hazard.GHS, Language: language, Fill: fill})
			if err != nil {
				require.ErrorContains(t, err, "is not kept in")
				continue
			}
			require.Empty(t, l.Blanks, "%s in %s", c, language)
		}
	}
}
