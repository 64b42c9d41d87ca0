package sources_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/japanese"
	"golang.org/x/text/encoding/korean"
	"golang.org/x/text/encoding/simplifiedchinese"
	"golang.org/x/text/encoding/traditionalchinese"

	"oddspool/internal/sources"
)

// Words of each part of the world, in each encoding that has them, are read as such. A few words that have letters of
// two languages are asked about.
func TestWordsOfTheWorldAreRead(t *testing.T) {
	files := map[string]string{
		"German":      "Fach;Inhalt\n1;Braunalge, geröstet\n2;Meersalz für die Küche\n",
		"French":      "casier;contenu\n1;Algues séchées à l'air\n2;Mélange fumé, prêt à l'emploi\n",
		"Spanish":     "caja;contenido\n1;Algas pequeñas\n2;Sal marina, sazón otoñal\n",
		"Danish":      "kasse;indhold\n1;Rødalge, tørret\n2;Søsalt på fad\n",
		"Polish":      "kod;zawartość\n1;Brunatnice suszone, żółte\n2;Sól morska gruboziarnista, świeża\n",
		"Czech":       "kód;obsah\n1;Sušená řasa\n2;Mořská sůl, jemná, příchuť\n",
		"Hungarian":   "kód;tartalom\n1;Szárított tőzeg, zöld\n2;Tengeri só, fűszer\n",
		"Croatian":    "šifra;sadržaj\n1;Sušena alga, čista\n2;Morska sol, nježna\n",
		"Lithuanian":  "kodas;turinys\n1;Džiovinti dumbliai, žalieji\n2;Jūros druska, rupi, šviežia\n",
		"Turkish":     "kod;içerik\n1;Kurutulmuş yosun\n2;Deniz tuzu, ığır, çığ\n",
		"Russian":     "код;содержимое\n1;Ламинария сушёная\n2;Соль морская, крупная\n",
		"Ukrainian":   "код;вміст\n1;Ламінарія сушена\n2;Сіль морська, їстівна\n",
		"Greek":       "κωδικός;περιεχόμενο\n1;Φύκια αποξηραμένα\n2;Θαλασσινό αλάτι\n",
		"Hebrew":      "קוד;תוכן\n1;אצות מיובשות\n2;מלח ים\n",
		"Arabic":      "رمز;محتوى\n1;أعشاب بحرية مجففة\n2;ملح البحر\n",
		"Thai":        "รหัส;เนื้อหา\n1;สาหร่ายแห้ง\n2;เกลือทะเล\n",
		"Japanese":    "棚番;内容\n1;乾燥昆布\n2;食塩、粗びき\n",
		"kanji alone": "番号;内容\n1;昆布\n2;塩\n",
		"half-width":  "bin;contents\n1;ｺﾝﾌﾞ\n2;ｼｵ ｱﾗﾋﾞｷ\n",
		"Chinese":     "货架;内容\n1;干海带\n2;食盐，粗粒\n",
		"traditional": "貨架;內容\n1;乾海帶\n2;食鹽，粗粒\n",
		"Korean":      "선반;내용\n1;말린 다시마\n2;굵은 소금\n",
		"degrees":     "bin;keep\n1;below 5 °C\n2;½ full\n",
		"euro":        "bin;price\n1;5 €\n2;7 €\n",
	}
	for name, is := range map[sources.Encoding]struct {
		as    encoding.Encoding
		files string
	}{
		sources.Windows1252: {charmap.Windows1252, "German French Spanish Danish degrees euro"},
		sources.Windows1250: {charmap.Windows1250, "German Polish Czech Hungarian Croatian"},
		sources.Windows1251: {charmap.Windows1251, "Russian Ukrainian"},
		sources.Windows1253: {charmap.Windows1253, "Greek"},
		sources.Windows1254: {charmap.Windows1254, "Turkish"},
		sources.Windows1257: {charmap.Windows1257, "Lithuanian"},
		sources.Windows1255: {charmap.Windows1255, "Hebrew"},
		sources.Windows1256: {charmap.Windows1256, "Arabic"},
		sources.Windows874:  {charmap.Windows874, "Thai"},
		sources.Latin2:      {charmap.ISO8859_2, "Polish Czech Hungarian Croatian"},
		sources.Latin9:      {charmap.ISO8859_15, "French Danish"},
		sources.CodePage850: {charmap.CodePage850, "German French Spanish Danish degrees"},
		sources.CodePage852: {charmap.CodePage852, "German Polish Czech Hungarian Croatian"},
		sources.KOI8R:       {charmap.KOI8R, "Russian"},
		sources.CodePage866: {charmap.CodePage866, "Russian"},
		sources.Cyrillic5:   {charmap.ISO8859_5, "Russian Ukrainian"},
		sources.ShiftJIS:    {japanese.ShiftJIS, "Japanese|kanji alone|half-width"},
		sources.EUCJP:       {japanese.EUCJP, "Japanese|kanji alone"},
		sources.GB18030:     {simplifiedchinese.GB18030, "Chinese"},
		sources.Big5:        {traditionalchinese.Big5, "traditional"},
		sources.EUCKR:       {korean.EUCKR, "Korean"},
	} {
		languages := strings.Fields(is.files)
		if strings.Contains(is.files, "|") {
			languages = strings.Split(is.files, "|")
		}
		for _, language := range languages {
			text := files[language]
			data, err := is.as.NewEncoder().String(text)
			require.NoError(t, err, "%s in %s", language, name)
			table, err := sources.Read([]byte(data), sources.Settings{})
			require.NoError(t, err, "%s in %s", language, name)
			read := strings.Join(table.Fields, ";") + "\n"
			for _, record := range table.Records {
				read += strings.Join(record, ";") + "\n"
			}
			if read != text {
				require.Equal(t, "Lithuanian", language, "in %s is read as %s: %s", name, table.Settings.Encoding,
					table.Notes)
				require.Contains(t, table.Notes[0], "as Windows-1257 it would say “Džiovinti”")
			}
		}
	}
}

// What is asked shows words that the encodings make different, each once.
func TestWhatIsAskedTellsReadingsApart(t *testing.T) {
	data, err := charmap.Windows1252.NewEncoder().String("code;contents\n1;Algues séchées\n2;Mélange à l'ancienne\n")
	require.NoError(t, err)
	table, err := sources.Read([]byte(data), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.Windows1252, table.Settings.Encoding)
	require.Equal(t, "The file does not tell its encoding and is not UTF-8 (line 2). Read as Windows-1252 it says "+
		"“à”; as Windows-1250 it would say “ŕ”. Choose which is right.", table.Notes[0])
}

// UTF-8 whose letters were spoilt before it was saved is told, and how it was meant where that can be seen.
func TestSpoiltLettersAreTold(t *testing.T) {
	for text, note := range map[string]string{
		"code;contents\n1;Algues " +
			"sÃ©chÃ©es\n": "“sÃ©chÃ©es” was “séchées” once, it seems: the file was written as UTF-8, read as " +
			"Windows-1252 and saved again. Have it written anew, or put the letters right.",
		"code;keep\n1;below 5 Â°C\n": "“Â°C” was “°C” once",
		"code;contents\n1;Algues " +
			"s\ufffdch\ufffdes\n": "“s\ufffdch\ufffdes” lost letters before the file was saved. Have it written anew.",
	} {
		table, err := sources.Read([]byte(text), sources.Settings{})
		require.NoError(t, err)
		require.Len(t, table.Notes, 1, text)
		require.Contains(t, table.Notes[0], note)
	}
	for _, text := range []string{strings.Repeat("a;", 300) + "b\n" + strings.Repeat("x"+strings.Repeat("é", 181)+";",
		300) + "y\n", "code;contents\n1;Algues séchées, São Tomé, ÂME\n", "code;contents\n1;Ламинария, Ã\n"} {
		table, err := sources.Read([]byte(text), sources.Settings{})
		require.NoError(t, err)
		require.NotContains(t, strings.Join(table.Notes, " "), "saved")
	}
}
