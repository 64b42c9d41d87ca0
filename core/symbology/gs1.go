package symbology

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"sync"
)

// GS1 element strings (GS1 General Specifications, 3 and 7.8): values, each with the application
// identifier that says what it is. People write them with brackets: (01)09521234543213(10)26K104.
// In a symbol they follow a function character 1, and one ends each value of no fixed length but the
// last.

// An AI is an application identifier.
type AI struct {
	AI    string `json:"ai"`
	Title string `json:"title"`
	parts []aiPart
	fixed bool     // its length is predefined (figure 7.8.5-2): no function character follows
	needs []string // one of these must be there too
	not   []string // none of these may
}

// An aiPart is a run of one kind of characters in a value.
type aiPart struct {
	numeric     bool
	least, most int
	check       byte // 'c' the last digit is a check digit, 'd' a date YYMMDD, 'D' one whose day may be 00, 'p' two check characters
	set39       bool // its characters are of GS1's set 39: digits, capitals and # - /
}

// aiTable has a line for each identifier or range: identifier, format, flags, title. A format is N
// digits, X characters or Y characters of set 39, as many or up to as many; c, d, D and p mark what is checked. Flags: = fixed
// length, +AI needs one of, -AI excludes.
const aiTable = `
00 N18c = SSCC
01 N14c =,-02,-37 GTIN
02 N14c =,+37,-01 CONTENT
03 N14c =,-01,-37 MTO GTIN
10 X..20 +01|+02|+03|+8006|+8026 BATCH/LOT
11 N6D =,+01|+02|+03|+8006|+8026 PROD DATE
12 N6D =,+8020 DUE DATE
13 N6D =,+01|+02|+03|+8006|+8026 PACK DATE
15 N6D =,+01|+02|+03|+8006|+8026 BEST BEFORE
16 N6D =,+01|+02|+03|+8006|+8026 SELL BY
17 N6D =,+01|+02|+03|+255|+8006|+8026 USE BY
20 N2 =,+01|+02|+03|+8006|+8026 VARIANT
21 X..20 -235,+01|+03|+8006 SERIAL
22 X..20 +01 CPV
235 X..28 +01 TPX
240 X..30 +01|+02|+8006|+8026 ADDITIONAL ID
241 X..30 +01|+02|+8006|+8026 CUST. PART NO.
242 N..6 +01|+02|+8006|+8026 MTO VARIANT
243 X..20 +01 PCN
250 X..30 +01|+8006,+21 SECONDARY SERIAL
251 X..30 +01|+8006 REF. TO SOURCE
253 N13c,X..17 . GDTI
254 X..20 +414 GLN EXTENSION COMPONENT
255 N13c,N..12 . GCN
30 N..8 +01|+02 VAR. COUNT
3100-3105 N6 =,+01|+02 NET WEIGHT (kg)
3110-3115 N6 =,+01|+02 LENGTH (m)
3120-3125 N6 =,+01|+02 WIDTH (m)
3130-3135 N6 =,+01|+02 HEIGHT (m)
3140-3145 N6 =,+01|+02 AREA (m²)
3150-3155 N6 =,+01|+02 NET VOLUME (l)
3160-3165 N6 =,+01|+02 NET VOLUME (m³)
3200-3205 N6 =,+01|+02 NET WEIGHT (lb)
3210-3215 N6 =,+01|+02 LENGTH (in)
3220-3225 N6 =,+01|+02 LENGTH (ft)
3230-3235 N6 =,+01|+02 LENGTH (yd)
3240-3245 N6 =,+01|+02 WIDTH (in)
3250-3255 N6 =,+01|+02 WIDTH (ft)
3260-3265 N6 =,+01|+02 WIDTH (yd)
3270-3275 N6 =,+01|+02 HEIGHT (in)
3280-3285 N6 =,+01|+02 HEIGHT (ft)
3290-3295 N6 =,+01|+02 HEIGHT (yd)
3300-3305 N6 =,+00|+01 GROSS WEIGHT (kg)
3310-3315 N6 =,+00|+01 LENGTH (m), log
3320-3325 N6 =,+00|+01 WIDTH (m), log
3330-3335 N6 =,+00|+01 HEIGHT (m), log
3340-3345 N6 =,+00|+01 AREA (m²), log
3350-3355 N6 =,+00|+01 VOLUME (l), log
3360-3365 N6 =,+00|+01 VOLUME (m³), log
3370-3375 N6 =,+01 KG PER m²
3400-3405 N6 =,+00|+01 GROSS WEIGHT (lb)
3410-3415 N6 =,+00|+01 LENGTH (in), log
3420-3425 N6 =,+00|+01 LENGTH (ft), log
3430-3435 N6 =,+00|+01 LENGTH (yd), log
3440-3445 N6 =,+00|+01 WIDTH (in), log
3450-3455 N6 =,+00|+01 WIDTH (ft), log
3460-3465 N6 =,+00|+01 WIDTH (yd), log
3470-3475 N6 =,+00|+01 HEIGHT (in), log
3480-3485 N6 =,+00|+01 HEIGHT (ft), log
3490-3495 N6 =,+00|+01 HEIGHT (yd), log
3500-3505 N6 =,+01|+02 AREA (in²)
3510-3515 N6 =,+01|+02 AREA (ft²)
3520-3525 N6 =,+01|+02 AREA (yd²)
3530-3535 N6 =,+00|+01 AREA (in²), log
3540-3545 N6 =,+00|+01 AREA (ft²), log
3550-3555 N6 =,+00|+01 AREA (yd²), log
3560-3565 N6 =,+01|+02 NET WEIGHT (troy oz)
3570-3575 N6 =,+01|+02 NET VOLUME (oz)
3600-3605 N6 =,+01|+02 NET VOLUME (qt)
3610-3615 N6 =,+01|+02 NET VOLUME (gal.)
3620-3625 N6 =,+00|+01 VOLUME (qt), log
3630-3635 N6 =,+00|+01 VOLUME (gal.), log
3640-3645 N6 =,+01|+02 VOLUME (in³)
3650-3655 N6 =,+01|+02 VOLUME (ft³)
3660-3665 N6 =,+01|+02 VOLUME (yd³)
3670-3675 N6 =,+00|+01 VOLUME (in³), log
3680-3685 N6 =,+00|+01 VOLUME (ft³), log
3690-3695 N6 =,+00|+01 VOLUME (yd³), log
37 N..8 +00,+02|+8026 COUNT
3900-3909 N..15 +8020|+255 AMOUNT
3910-3919 N3,N..15 +8020 AMOUNT
3920-3929 N..15 +01 PRICE
3930-3939 N3,N..15 +01 PRICE
3940-3943 N4 +255 PRCNT OFF
3950-3955 N6 +01 PRICE/UoM
400 X..30 . ORDER NUMBER
401 X..30 . GINC
402 N17c . GSIN
403 X..30 +00 ROUTE
410 N13c = SHIP TO LOC
411 N13c = BILL TO
412 N13c = PURCHASE FROM
413 N13c = SHIP FOR LOC
414 N13c = LOC No.
415 N13c =,+8020 PAY TO
416 N13c = PROD/SERV LOC
417 N13c = PARTY
420 X..20 -421 SHIP TO POST
421 N3,X..9 . SHIP TO POST
422 N3 +01|+02|+8006|+8026 ORIGIN
423 N3..15 +01|+02 COUNTRY - INITIAL PROCESS
424 N3 +01|+02 COUNTRY - PROCESS
425 N3..15 +01|+02 COUNTRY - DISASSEMBLY
426 N3 +01|+02 COUNTRY - FULL PROCESS
427 X..3 +01|+02,+422 ORIGIN SUBDIVISION
4300 X..35 +00 SHIP TO COMP
4301 X..35 +00 SHIP TO NAME
4302 X..70 +00 SHIP TO ADD1
4303 X..70 +4302 SHIP TO ADD2
4304 X..70 +00 SHIP TO SUB
4305 X..70 +00 SHIP TO LOC
4306 X..70 +00 SHIP TO REG
4307 X2 +00 SHIP TO COUNTRY
4308 X..30 +00 SHIP TO PHONE
4309 N20 +00 SHIP TO GEO
4310 X..35 +00 RTN TO COMP
4311 X..35 +00 RTN TO NAME
4312 X..70 +00 RTN TO ADD1
4313 X..70 +4312 RTN TO ADD2
4314 X..70 +00 RTN TO SUB
4315 X..70 +00 RTN TO LOC
4316 X..70 +00 RTN TO REG
4317 X2 +00 RTN TO COUNTRY
4318 X..20 +00 RTN TO POST
4319 X..30 +00 RTN TO PHONE
4320 X..35 +00 SRV DESCRIPTION
4321 N1 +00 DANGEROUS GOODS
4322 N1 +00 AUTH LEAVE
4323 N1 +00 SIG REQUIRED
4324 N10 +00 NOT BEF DEL DT
4325 N10 +00 NOT AFT DEL DT
4326 N6d +00 REL DATE
4330 N6,X..1 +00 MAX TEMP F.
4331 N6,X..1 +00 MAX TEMP C.
4332 N6,X..1 +00 MIN TEMP F.
4333 N6,X..1 +00 MIN TEMP C.
7001 N13 +01|+02|+8006|+8026 NSN
7002 X..30 +01|+02 MEAT CUT
7003 N10 +01|+02 EXPIRY TIME
7004 N..4 +01 ACTIVE POTENCY
7005 X..12 +01|+02 CATCH AREA
7006 N6d +01|+02 FIRST FREEZE DATE
7007 N6..12 +01|+02 HARVEST DATE
7008 X..3 +01|+02 AQUATIC SPECIES
7009 X..10 +01|+02 FISHING GEAR TYPE
7010 X..2 +01|+02 PROD METHOD
7011 N6..10 +01|+02 TEST BY DATE
7020 X..20 +01|+8006,+416 REFURB LOT
7021 X..20 +01|+8006 FUNC STAT
7022 X..20 +7021 REV STAT
7023 X..30 . GIAI - ASSEMBLY
7030-7039 N3,X..27 +01|+02 PROCESSOR
7040 N1,X3 . UIC+EXT
7041 X..4 +00 UFRGT UNIT TYPE
710 X..20 +01 NHRN PZN
711 X..20 +01 NHRN CIP
712 X..20 +01 NHRN CN
713 X..20 +01 NHRN DRN
714 X..20 +01 NHRN AIM
715 X..20 +01 NHRN NDC
716 X..20 +01 NHRN AIC
7230-7239 X2,X..28 +01|+8004 CERT
7240 X..20 +01|+8006 PROTOCOL
7241 N2 +8017|+8018 AIDC MEDIA TYPE
7242 X..25 . VCN
7250 N8 +8018 DOB
7251 N12 +8018 DOB TIME
7252 N1 +8018 BIO SEX
7253 X..40 +8017|+8018 FAMILY NAME
7254 X..40 +8017|+8018 GIVEN NAME
7255 X..10 +8017|+8018 SUFFIX
7256 X..90 +8017|+8018 FULL NAME
7257 X..70 +8018 PERSON ADDR
7258 X3 +8018 BIRTH SEQUENCE
7259 X..40 +8018 BABY
8001 N14 +01 DIMENSIONS
8002 X..20 . CMT NO.
8003 N14c,X..16 . GRAI
8004 X..30 . GIAI
8005 N6 +01|+02 PRICE PER UNIT
8006 N14c,N4 -01,-37 ITIP
8007 X..34 +8020 IBAN
8008 N8..12 +01|+02 PROD TIME
8009 X..50 +00|+01 OPTSEN
8010 Y..30 . CPID
8011 N..12 +8010 CPID SERIAL
8012 X..20 +01|+8006 VERSION
8013 X..25p . GMN
8017 N18c -8018 GSRN - PROVIDER
8018 N18c -8017 GSRN - RECIPIENT
8019 N..10 +8017|+8018 SRIN
8020 X..25 +415 REF No.
8026 N14c,N4 +37,-02,-8006 ITIP CONTENT
8030 X..90 . DIGSIG
8110 X..70 . -
8111 N4 +255 POINTS
8112 X..70 . -
8200 X..70 +01 PRODUCT URL
90 X..30 . INTERNAL
91-99 X..90 . INTERNAL
`

var ais = sync.OnceValue(func() map[string]*AI {
	table := map[string]*AI{}
	for line := range strings.Lines(strings.TrimSpace(aiTable)) {
		word := strings.SplitN(strings.TrimSpace(line), " ", 4)
		from, to, isRange := strings.Cut(word[0], "-")
		if !isRange {
			to = from
		}
		for n := number(from); n <= number(to); n++ {
			ai := &AI{AI: fmt.Sprintf("%0*d", len(from), n), Title: word[3]}
			for part := range strings.SplitSeq(word[1], ",") {
				ai.parts = append(ai.parts, readPart(part))
			}
			for flag := range strings.SplitSeq(word[2], ",") {
				switch flag[0] {
				case '=':
					ai.fixed = true
				case '-':
					ai.not = append(ai.not, flag[1:])
				case '+':
					ai.needs = append(ai.needs, strings.ReplaceAll(flag[1:], "|+", "|"))
				}
			}
			table[ai.AI] = ai
		}
	}
	return table
})

// Identifiers returns all application identifiers in their order.
func Identifiers() []*AI {
	all := slices.Collect(maps.Values(ais()))
	slices.SortFunc(all, func(a, b *AI) int { return strings.Compare(a.AI, b.AI) })
	return all
}

// Format tells in words what a value is: "14 digits, the last a check digit".
func (a *AI) Format() string {
	var words []string
	for _, p := range a.parts {
		kind := "characters"
		if p.numeric {
			kind = "digits"
		}
		count := fmt.Sprint(p.most)
		if p.least < p.most {
			count = "up to " + count
		}
		text := count + " " + kind
		switch p.check {
		case 'c':
			text += ", the last a check digit"
		case 'd', 'D':
			text = "a date, YYMMDD"
		case 'p':
			text += ", the last two check characters"
		}
		words = append(words, text)
	}
	if a.decimals() {
		words[len(words)-1] += fmt.Sprintf(", %c after the decimal point", a.AI[3])
	}
	return strings.Join(words, ", then ")
}

// decimals tells whether the last digit of the identifier is how many stand after the decimal point of
// its value: those of measures and amounts (GS1 General Specifications, 3.6 and 3.9).
func (a *AI) decimals() bool {
	return len(a.AI) == 4 && (a.AI >= "3100" && a.AI <= "3699" || a.AI >= "3900" && a.AI <= "3959")
}

func number(digits string) int {
	n := 0
	for i := range len(digits) {
		n = n*10 + int(digits[i]-'0')
	}
	return n
}

// readPart reads N18c, X..20 or N3..15.
func readPart(text string) aiPart {
	p := aiPart{numeric: text[0] == 'N', set39: text[0] == 'Y'}
	text = text[1:]
	if last := text[len(text)-1]; last > '9' {
		p.check, text = last, text[:len(text)-1]
	}
	least, most, upTo := strings.Cut(text, "..")
	switch {
	case !upTo:
		p.least, p.most = number(least), number(least)
	case least == "":
		p.least, p.most = 1, number(most)
	default:
		p.least, p.most = number(least), number(most)
	}
	return p
}

// An Element is a value with its application identifier.
type Element struct {
	AI    *AI
	Value string
}

// ParseGS1 reads element strings in brackets and checks them: known identifiers, lengths, characters,
// check digits, dates, and which exclude one another; Lacking tells which need others. Its error is a
// *DataError.
func ParseGS1(text string) ([]Element, error) {
	const name = "GS1"
	if text == "" || text[0] != '(' {
		return nil, wrong(name, 1, "GS1 data begins with an identifier in brackets, such as (01).")
	}
	var elements []Element
	for at := 0; at < len(text); {
		end := strings.IndexByte(text[at:], ')')
		if end < 0 {
			return nil, wrong(name, at+1, "The bracket at character %d is not closed.", at+1)
		}
		id := text[at+1 : at+end]
		ai := ais()[id]
		if ai == nil {
			return nil, wrong(name, at+2, "(%s) is no application identifier.", id)
		}
		value := text[at+end+1:]
		from := at + end + 1
		if next := nextBracket(value); next >= 0 {
			value = value[:next]
		}
		if problem, position := ai.check(value); problem != "" {
			return nil, wrong(name, from+position, "(%s) %s: %s", id, ai.Title, problem)
		}
		elements = append(elements, Element{ai, value})
		at = from + len(value)
	}
	return elements, together(elements)
}

// nextBracket returns where the next identifier begins: a bracket that one in brackets follows.
// Values may hold brackets themselves.
func nextBracket(text string) int {
	for i := range len(text) {
		if text[i] != '(' {
			continue
		}
		if end := strings.IndexByte(text[i:], ')'); end > 0 && ais()[text[i+1:i+end]] != nil {
			return i
		}
	}
	return -1
}

// check returns what is wrong with a value, and at which of its characters, from 1.
func (a *AI) check(value string) (problem string, position int) {
	least, most := 0, 0
	for i, p := range a.parts {
		if i == 0 || p.least == p.most {
			least += p.least
		}
		most += p.most
	}
	if len(value) < least || len(value) > most {
		if least == most {
			return fmt.Sprintf("it has %d characters, and %s is %d.", least, quoted(value), len(value)), 1
		}
		return fmt.Sprintf("it has %d to %d characters, and %s is %d.", least, most, quoted(value), len(value)), 1
	}
	at := 0
	for _, p := range a.parts {
		end := min(at+p.most, len(value))
		part := value[at:end]
		for i := range len(part) {
			if p.numeric && (part[i] < '0' || part[i] > '9') {
				return fmt.Sprintf("“%c” is no digit.", part[i]), at + i + 1
			}
			if p.set39 && !isDigit(part[i]) && (part[i] < 'A' || part[i] > 'Z') && strings.IndexByte("#-/", part[i]) < 0 {
				return fmt.Sprintf("%s may not stand here; digits, capitals, #, - and / may.", shown(rune(part[i]))), at + i + 1
			}
			if !p.numeric && !p.set39 && !in82(part[i]) {
				return fmt.Sprintf("%s may not stand in GS1 data.", shown(rune(part[i]))), at + i + 1
			}
		}
		if problem := p.checked(part); problem != "" {
			return problem, end
		}
		at = end
	}
	return "", 0
}

func quoted(value string) string {
	if value == "" {
		return "what is given"
	}
	return "“" + value + "”"
}

// set82 are GS1's characters in the order of their values (figure 7.11-1).
const set82 = "!\"%&'()*+,-./0123456789:;<=>?ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz"

// in82 tells whether a character is of GS1's set 82 (figure 7.11-1).
func in82(c byte) bool { return strings.IndexByte(set82, c) >= 0 }

// checked returns what is wrong with a part by its check.
func (p aiPart) checked(part string) string {
	switch p.check {
	case 'c':
		if check := Mod10(part[:len(part)-1]); check != part[len(part)-1] {
			return fmt.Sprintf("its check digit is %c, not %c.", check, part[len(part)-1])
		}
	case 'p':
		if len(part) < 3 {
			return "its last two characters are check characters, and more stand before them."
		}
		if check := ModelCheck(part[:len(part)-2]); check != part[len(part)-2:] {
			return fmt.Sprintf("its check characters are %s, not %s.", check, part[len(part)-2:])
		}
	case 'd', 'D':
		month, day := number(part[2:4]), number(part[4:6])
		days := [...]int{31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}
		if month < 1 || month > 12 || day > days[month-1] || day == 0 && p.check == 'd' {
			return fmt.Sprintf("%s is no date; it is written year, month, day: YYMMDD.", part)
		}
	}
	return ""
}

// together looks at which identifiers exclude one another (GS1 General Specifications, 4.14), and at the
// same one twice with another value.
func together(elements []Element) error {
	has := func(id string) bool {
		return slices.ContainsFunc(elements, func(e Element) bool { return e.AI.AI == id })
	}
	for i, e := range elements {
		for _, other := range elements[:i] {
			if other.AI == e.AI && other.Value != e.Value {
				return wrong("GS1", 0, "(%s) %s stands there twice with different values.", e.AI.AI, e.AI.Title)
			}
		}
		for _, not := range e.AI.not {
			if has(not) {
				return wrong("GS1", 0, "(%s) %s and (%s) %s exclude each other.", e.AI.AI, e.AI.Title, not, ais()[not].Title)
			}
		}
	}
	return nil
}

// Lacking returns what the first of elements that needs another lacks of all, which are those of every
// symbol on the same label: a pallet has its number in one and its content in another. Its error is a
// *DataError; nil: nothing is lacking (GS1 General Specifications, 4.13).
func Lacking(elements, all []Element) error {
	has := func(id string) bool {
		return slices.ContainsFunc(all, func(e Element) bool { return e.AI.AI == id })
	}
	for _, e := range elements {
		for _, needs := range e.AI.needs {
			if !slices.ContainsFunc(strings.Split(needs, "|"), has) {
				return wrong("GS1", 0, "(%s) %s needs (%s) with it on the label.", e.AI.AI, e.AI.Title, strings.ReplaceAll(needs, "|", ") or ("))
			}
		}
	}
	return nil
}

// GS1Text writes elements as people read them (GS1 General Specifications, 4.14.1).
func GS1Text(elements []Element) string {
	var text strings.Builder
	for _, e := range elements {
		text.WriteString("(" + e.AI.AI + ")" + e.Value)
	}
	return text.String()
}

// gs1Data returns elements as they stand in a symbol, with separator for the function character that
// ends a value of no fixed length. Those of fixed length go first, which takes fewest separators.
func gs1Data(elements []Element, separator byte) []byte {
	ordered := slices.Clone(elements)
	slices.SortStableFunc(ordered, func(a, b Element) int {
		switch {
		case a.AI.fixed == b.AI.fixed:
			return 0
		case a.AI.fixed:
			return -1
		}
		return 1
	})
	return gs1DataInOrder(ordered, separator)
}

// gs1DataInOrder leaves them in their order. An element without an identifier is the rest of one whose
// beginning stands elsewhere.
func gs1DataInOrder(elements []Element, separator byte) (data []byte) {
	for i, e := range elements {
		fixed := false
		if e.AI != nil {
			data, fixed = append(data, e.AI.AI...), e.AI.fixed
		}
		data = append(data, e.Value...)
		if !fixed && i < len(elements)-1 {
			data = append(data, separator)
		}
	}
	return data
}

// groupSeparator is what readers send for a function character within the data (ISO/IEC 15424).
const groupSeparator = 0x1D

// gs1 parses GS1 data and keeps its elements.
func (s *Symbol) gs1(text string) ([]Element, error) {
	elements, err := ParseGS1(text)
	s.Elements = append(s.Elements, elements...)
	return elements, err
}

func (s *Symbol) gs1128(text string, _ Options) error {
	const longest = 48 // GS1 General Specifications, 5.4.4.4
	elements, err := s.gs1(text)
	if err != nil {
		return err
	}
	data := gs1Data(elements, fnc1)
	if len(data) > longest {
		return wrong("GS1-128", 0, "%d characters are too many for one GS1-128; it takes up to %d. Spread them over two symbols.", len(data), longest)
	}
	s.code128Bars(string(append([]byte{fnc1}, data...)))
	s.Text, s.Reads = GS1Text(elements), string(gs1Data(elements, groupSeparator))
	return nil
}
