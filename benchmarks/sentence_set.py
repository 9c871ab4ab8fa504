"""Invented sentences in eight languages with hard ends, 40 of each language."""

from collections.abc import Iterator, Mapping

__all__ = ["LANGUAGES", "paragraphs"]

# Each template makes four sentences with the fills below.
_TEMPLATES: Mapping[str, tuple[str, ...]] = {
    "en": (
        "Dr. {name} came to {place} at 9 p.m. and stayed until dawn.",
        "The comet reached mag. {number} on {month} 3.",
        "“Is it gone?” asked Mrs. {name}.",
        "It was approx. {number}.5 km away, i.e. close to {place}.",
        "J. R. {name} wrote it down (see p. {number}).",
        "Bring a chair, a torch, etc. to {place}.",
        "No. {number} in the list is the one we saw!",
        "The U.S. team of Prof. {name} had left by then.",
        "Who would have thought so… in {month}?",
        "He said no.",
    ),
    "de": (
        "Dr. {name} kam am {number}. {month} nach {place}.",
        "Die Helligkeit lag z. B. bei {number},5 mag, d. h. recht hoch.",
        "„Ist er weg?“, fragte Frau Prof. {name}.",
        "Das war ca. {number} km von {place} entfernt.",
        "Im {number}. Jahrhundert sah man ihn bzw. seinen Schweif von {place} aus.",
        "Stuhl, Lampe usw. sind mitzubringen.",
        "Nr. {number} der Liste ist es!",
        "J. {name} schrieb es auf (vgl. S. {number}).",
        "Die Wache beginnt um {number}.30 Uhr in {place}.",
        "Wer hätte das gedacht …",
    ),
    "fr": (
        "M. {name} est venu à {place} le {number} {month}.",
        "La comète a atteint la magnitude {number},5 env. près de {place}.",
        "« Est-elle partie ? » demanda Mme {name}.",
        "Le Dr {name} l’a noté (cf. p. {number}).",
        "C’était à {number} km de {place}, c.-à-d. tout près.",
        "Apportez une chaise, une lampe, etc. à {place}.",
        "Le n° {number} de la liste est le bon !",
        "J.-P. {name} est resté jusqu’à l’aube.",
        "Qui l’aurait cru… en {month} ?",
        "Il a dit non.",
    ),
    "es": (
        "El Sr. {name} llegó a {place} el {number} de {month}.",
        "El cometa alcanzó la magnitud {number},5 aprox. cerca de {place}.",
        "¿Se ha ido?",
        "La Dra. {name} lo anotó (véase pág. {number}).",
        "Estaba a {number} km de {place}.",
        "Traigan una silla, una linterna, etc. a {place}.",
        "¡El núm. {number} de la lista es el bueno!",
        "J. L. {name} se quedó hasta el alba.",
        "Los EE. UU. enviaron a {name} a {place}.",
        "Dijo que no.",
    ),
    "it": (
        "Il dott. {name} arrivò a {place} il {number} {month}.",
        "La cometa raggiunse la magnitudine {number},5 ca. presso {place}.",
        "«È andata via?» chiese la sig.ra {name}.",
        "Il prof. {name} lo annotò (cfr. pag. {number}).",
        "Era a {number} km da {place}, cioè vicina.",
        "Portate una sedia, una torcia, ecc. a {place}.",
        "Il n. {number} della lista è quello giusto!",
        "G. {name} rimase fino all’alba.",
        "Chi l’avrebbe detto… in {month}?",
        "Disse di no.",
    ),
    "ru": (
        "Д-р {name} приехал в {place} {number} {month}.",
        "Комета достигла {number},5 зв. вел. близ {place}.",
        "«Она ушла?» — спросила г-жа {name}.",
        "А. П. {name} записал это (см. стр. {number}).",
        "Это было в {number} км от {place}, т. е. близко.",
        "Возьмите стул, фонарь и т. д. в {place}.",
        "Номер {number} в списке — тот самый!",
        "Это было в {number} г. до н. э. у {place}.",
        "Кто бы мог подумать… в {month}?",
        "Он сказал нет.",
    ),
    "hi": (
        "डॉ. {name} {number} {month} को {place} पहुँचे।",
        "धूमकेतु {place} के पास {number}.5 परिमाण तक पहुँचा।",
        "क्या वह चला गया?",
        "यह {place} से {number} किमी दूर था।",
        "एक कुर्सी और एक लालटेन {place} लाइए।",
        "सूची में {number} सही है!",
        "{name} भोर तक {place} में रहे।",
        "“यह सुंदर था।” ऐसा {name} ने कहा।",
        "किसने सोचा था… {month} में?",
        "उसने मना कर दिया।",
    ),
    "zh": (
        "{name}博士于{number}月3日来到{place}。",
        "彗星在{place}附近达到{number}.5等。",
        "“它走了吗？”{name}问。",
        "它离{place}大约{number}公里。",
        "请带一把椅子和一盏灯到{place}！",
        "名单上的第{number}个就是它。",
        "{name}看着……一直待到天亮。",
        "谁会想到呢？",
        "（见第{number}页。）",
        "他说不。",
    ),
}
_FILLS: Mapping[str, tuple[tuple[str, str, str, str], ...]] = {
    "en": (("Oakes", "Cold Lantern Hill", "7", "March"), ("Quill", "Harrow Fen", "12", "May"),
           ("Castell", "St. Aldwin’s field", "3", "October"), ("Farrow", "Millwater", "21", "June")),
    "de": (("Oakes", "Kaltenberg", "7", "März"), ("Quill", "Moorau", "12", "Mai"),
           ("Castell", "St. Alden", "3", "Oktober"), ("Farrow", "Mühlwasser", "21", "Juni")),
    "fr": (("Oakes", "Froidmont", "7", "mars"), ("Quill", "Marais-Long", "12", "mai"),
           ("Castell", "St-Aldin", "3", "octobre"), ("Farrow", "Moulineau", "21", "juin")),
    "es": (("Oakes", "Cerro Frío", "7", "marzo"), ("Quill", "Pantano Largo", "12", "mayo"),
           ("Castell", "S. Aldino", "3", "octubre"), ("Farrow", "Molinagua", "21", "junio")),
    "it": (("Oakes", "Montefreddo", "7", "marzo"), ("Quill", "Palude Lunga", "12", "maggio"),
           ("Castell", "S. Aldino", "3", "ottobre"), ("Farrow", "Molinacqua", "21", "giugno")),
    "ru": (("Оукс", "Холодный Холм", "7", "марта"), ("Квилл", "Долгое Болото", "12", "мая"),
           ("Кастель", "Альдино", "3", "октября"), ("Фэрроу", "Мельница", "21", "июня")),
    "hi": (("ओक्स", "शीतगढ़", "7", "मार्च"), ("क्विल", "लंबा ताल", "12", "मई"),
           ("कास्टेल", "अल्दिन", "3", "अक्टूबर"), ("फैरो", "चक्कीघाट", "21", "जून")),
    "zh": (("欧克", "冷灯山", "7", "三月"), ("奎尔", "长沼", "12", "五月"),
           ("卡斯", "阿尔丁", "3", "十月"), ("法罗", "磨水", "21", "六月")),
}  # fmt: skip
LANGUAGES = tuple(_TEMPLATES)
"""The languages of the set (ISO 639-1)."""


def paragraphs(language: str) -> Iterator[list[str]]:
    """Yield the 40 sentences of a language in paragraphs of five, in changing neighbourhoods."""
    templates = _TEMPLATES[language]
    made = [
        template.format(name=name, place=place, number=number, month=month)
        for turn, (name, place, number, month) in enumerate(_FILLS[language])
        for template in (*templates[turn * 3 :], *templates[: turn * 3])
    ]
    return (made[first : first + 5] for first in range(0, len(made), 5))
