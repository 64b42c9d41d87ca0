package sources

import (
	"strings"
	"sync"
	"unicode"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/japanese"
	"golang.org/x/text/encoding/korean"
	"golang.org/x/text/encoding/simplifiedchinese"
	"golang.org/x/text/encoding/traditionalchinese"
)

// A writing is what words in some encodings are made of.
type writing struct {
	languages []string // their letters beyond A to Z, the small ones
	frequent  string   // stand in most words
	rare      string
	alone     bool                           // no word has letters of it and of A to Z
	daily     func() map[rune]bool           // ideographs and syllables in daily use; nil: it has letters
	letters   func() []map[rune]letterWeight // for each language, see weigh
}

// A letterWeight tells how much a letter speaks for a language.
type letterWeight float64

// Weights of letters. A text in the wrong encoding has letters of no language, or of several that stand in no text
// together.
const (
	ownLetter letterWeight = 2
	// of another language in the same encodings: in a name, or a file in two languages
	neighbourLetter letterWeight = 0.5
	foreignLetter   letterWeight = -1
	often           letterWeight = 0.5
	oneLetter       letterWeight = 0.1 // a part: of a letter by itself, which is seldom a word and may well be a sign
)

func newWriting(w writing) *writing {
	w.letters = sync.OnceValue(w.weigh)
	return &w
}

var (
	western = newWriting(writing{languages: []string{"äöüß", "éèêëàâçôîïûùœæ", "áéíóúñü", "áàâãçéêíóôõú", "àèéìòù",
		"åæøé",
		"åäöé", "áéíóúýðþæö", "ëïéèöü"}})
	central = newWriting(writing{languages: []string{"ąćęłńóśźż", "áčďéěíňóřšťúůýž", "áäčďéíĺľňóôŕšťúýž", "áéíóöőúüű",
		"ăâîşţ", "čćđšž", "äöüß"}})
	baltic  = newWriting(writing{languages: []string{"ąčęėįšųūž", "āčēģīķļņšūž", "äõöüšž", "ąćęłńóśźż"}})
	turkish = newWriting(writing{languages: []string{"çğıöşüİâîû"}})

	cyrillic = newWriting(writing{languages: []string{"абвгдежзийклмнопрстуфхцчшщъыьэюяё",
		"абвгґдеєжзиіїйклмнопрстуфхцчшщьюя", "абвгдђежзијклљмнњопрстћуфхцчџш"},
		frequent: "оеаинтсрвлк", rare: "щъэфцёыщю", alone: true})
	greek = newWriting(writing{languages: []string{"αβγδεζηθικλμνξοπρσςτυφχψωάέήίόύώϊϋΐΰ"}, frequent: "αοιετνσ",
		alone: true})
	hebrew = newWriting(writing{languages: []string{"אבגדהוזחטיךכלםמןנסעףפץצקרשת"}, frequent: "יוהלמרת", alone: true})
	arabic = newWriting(writing{languages: []string{"ابتثجحخدذرزسشصضطظعغفقكلمنهويءآأؤإئةى"}, frequent: "اليمنرو",
		alone: true})
	thai = newWriting(writing{
		languages: []string{"กขฃคฅฆงจฉชซฌญฎฏฐฑฒณดตถทธนบปผฝพฟภมยรฤลวศษสหฬอฮะัาำิีึืุูเแโใไ็่้๊๋์ๆ"},
		frequent:  "านรกเงมย", alone: true})

	japaneseWords = newWriting(writing{daily: sync.OnceValue(func() map[rune]bool {
		return twoBytes(japanese.EUCJP, 0xb0,
			0xcf, 0xa1)
	}),
		frequent: "日本国年月大人出中上下用量内容品番号製造者名入数重部分高小物水食海塩白黒赤青箱棚"})
	chineseWords = newWriting(writing{daily: sync.OnceValue(func() map[rune]bool {
		return twoBytes(simplifiedchinese.GBK,
			0xb0, 0xd7, 0xa1)
	}),
		frequent: "的一是不了在有人这个中上大为和国地到说时要就出会可也你对生能而子下自年过发后作里用道行所然家种事成方多经去法学如同现没动面起看定天分还进好小部其本前开因只从想实" +
			"日意无与长把机十民第公此已使情明三又关点正业外将两高间由问很最重并物手应向头文体政美相见利等产新己制身果加西月品名编号码数量容内包装海盐仓库货架位规格"})
	traditionalWords = newWriting(writing{daily: sync.OnceValue(func() map[rune]bool {
		return twoBytes(
			traditionalchinese.Big5, 0xa4, 0xc6, 0x40)
	}),
		frequent: "的一是不了在有人這個中上大為和國地到說時要就出會可也你對生能而子下自年過發後作裡用道行所然家種事成方多經去法學如同現沒動面起看定天分還進好小部其本前開因只從想實" +
			"日意無與長把機十民第公此已使情明三又關點正業外將兩高間由問很最重並物手應向頭文體政美相見利等產新己制身果加西月品名編號碼數量容內包裝海鹽倉庫貨架位規格"})
	koreanWords = newWriting(writing{daily: sync.OnceValue(func() map[rune]bool {
		return twoBytes(korean.EUCKR, 0xb0, 0xc8,
			0xa1)
	}),
		frequent: "이다는을의에고가한하지어사로나기은도자들리아그인해라를일시대있니과게수것으정보전제여조말부스상주장동내신원구성안물세무문위품번호용량"})
)

// twoBytes returns what an encoding has for pairs of bytes, the first from one to another, the second from one on:
// where its standard puts what is in daily use (the first level of GB 2312, JIS X 0208 and Big5, the syllables of KS X
// 1001).
func twoBytes(is encoding.Encoding, from, to, second int) map[rune]bool {
	all := map[rune]bool{}
	for first := from; first <= to; first++ {
		for b := second; b <= 0xfe; b++ {
			if text, err := is.NewDecoder().String(string([]byte{byte(first), byte(b)})); err == nil {
				for _, r := range text {
					all[r] = true
				}
			}
		}
	}
	delete(all, unicode.ReplacementChar)
	return all
}

// weigh tells how much each letter beyond ASCII speaks for each language. Letters that are not there are foreign.
func (w *writing) weigh() []map[rune]letterWeight {
	both := func(letters string) string { return letters + strings.ToUpper(letters) }
	all := make([]map[rune]letterWeight, len(w.languages))
	for i, own := range w.languages {
		all[i] = map[rune]letterWeight{}
		for _, language := range w.languages {
			for _, r := range both(language) {
				all[i][r] = neighbourLetter
			}
		}
		for _, r := range both(own) {
			all[i][r] = ownLetter
		}
		for _, r := range both(w.frequent) {
			all[i][r] += often
		}
		for _, r := range both(w.rare) {
			all[i][r] -= often
		}
	}
	return all
}
