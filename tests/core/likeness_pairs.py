"""Pairs of texts, with whether they are one story.

Menus, closed roads, offers, corrected figures, press releases.
"""

from collections.abc import Iterator
from itertools import combinations
from typing import NamedTuple

__all__ = ["Alike", "likeness_pairs"]


class Alike(NamedTuple):
    """Two texts in a language, how they were made, and whether they tell one story."""

    language: str
    kind: str
    one: str
    other: str
    same: bool


_FORMS = (
    (
        "en",
        "menu",
        "School lunch this week. Monday: {}. Tuesday: {}. Wednesday: {}. Thursday: {}. Friday: {}. Please order by noon on Thursday. Each meal costs 4 euros, and children who bring their own food may sit at the same tables. Milk and fruit are free, as always.",
        [
            ("pasta with tomato sauce", "fish fingers and peas", "vegetable soup", "chicken with rice", "pancakes"),
            ("lentil stew", "pizza", "potato gratin", "meatballs in gravy", "rice pudding"),
            ("bean soup with bread", "spinach and eggs", "noodles with cheese", "fish pie", "apple crumble"),
        ],
    ),
    (
        "de",
        "menu",
        "Der Speiseplan der Mensa für diese Woche: Montag {}, Dienstag {}, Mittwoch {}, Donnerstag {}, Freitag {}. Bestellungen bitte bis Donnerstag um zwölf Uhr im Sekretariat abgeben. Jede Mahlzeit kostet vier Euro, Milch und Obst sind wie immer frei, und wer sein eigenes Essen mitbringt, darf gern an denselben Tischen sitzen.",
        [
            ("Nudeln mit Tomatensoße", "Fischstäbchen", "Gemüsesuppe", "Huhn mit Reis", "Pfannkuchen"),
            ("Linseneintopf", "Pizza", "Kartoffelauflauf", "Klopse", "Milchreis"),
            ("Bohnensuppe", "Spinat mit Ei", "Käsenudeln", "Fischauflauf", "Apfelstrudel"),
        ],
    ),
    (
        "fr",
        "menu",
        "Le menu de la cantine pour la semaine : lundi {}, mardi {}, mercredi {}, jeudi {}, vendredi {}. Les commandes se font avant jeudi midi auprès du secrétariat. Chaque repas coûte quatre euros, le lait et les fruits sont offerts comme toujours, et ceux qui apportent leur déjeuner peuvent s’asseoir aux mêmes tables.",
        [
            ("pâtes à la tomate", "poisson pané", "soupe de légumes", "poulet et riz", "crêpes"),
            ("ragoût de lentilles", "pizza", "gratin", "boulettes", "riz au lait"),
            ("soupe de haricots", "épinards et œufs", "nouilles au fromage", "tourte au poisson", "tarte aux pommes"),
        ],
    ),
    (
        "en",
        "menu2",
        "Today in the canteen we serve {} with a salad from our own garden, and for dessert there is {}. As always everything is cooked fresh in the morning by our team, and the kitchen is open from half past eleven until two. Guests from outside are welcome and pay at the till by card or in cash.",
        [("lentil curry", "apple cake"), ("grilled trout", "plum pudding"), ("mushroom risotto", "lemon ice cream")],
    ),
    (
        "de",
        "menu2",
        "Heute gibt es in der Kantine {} mit Salat aus dem eigenen Garten und zum Nachtisch {}. Wie immer wird alles am Morgen frisch von unserem Team gekocht, und die Küche ist von halb zwölf bis zwei geöffnet. Gäste von außerhalb sind willkommen und zahlen an der Kasse mit Karte oder bar.",
        [("Linsencurry", "Apfelkuchen"), ("gegrillte Forelle", "Pflaumenmus"), ("Pilzrisotto", "Zitroneneis")],
    ),
    (
        "en",
        "traffic",
        "The road between {} and {} is closed from {} until {} because of work on {}. A diversion is signed by way of {}. Buses of line {} stop at the market instead of the church. Drivers should allow ten minutes more, the county says, and asks for patience.",
        [
            ("Weston", "Harlow", "3 May", "7 May", "the bridge", "Milton", "12"),
            ("Ashford", "Milton", "12 June", "19 June", "the drains", "Weston", "7"),
            ("Harlow", "Ashford", "1 July", "4 July", "the kerbs", "Brook End", "31"),
        ],
    ),
    (
        "pl",
        "traffic",
        "Droga z miejscowości {} do miejscowości {} będzie zamknięta od {} do {} z powodu prac przy {}. Objazd prowadzi przez {}. Autobusy linii {} zatrzymują się przy rynku zamiast przy kościele. Kierowcy powinni doliczyć dziesięć minut, prosi zarząd dróg i dziękuje za cierpliwość.",
        [
            ("Wola", "Brzeg", "3 maja", "7 maja", "moście", "Lipno", "12"),
            ("Lipno", "Zagaje", "12 czerwca", "19 czerwca", "kanalizacji", "Wola", "7"),
            ("Brzeg", "Lipno", "1 lipca", "4 lipca", "krawężnikach", "Zagaje", "31"),
        ],
    ),
    (
        "de",
        "traffic2",
        "Wegen Bauarbeiten ist die Straße zwischen {} und {} bis {} gesperrt. Eine Umleitung ist ausgeschildert. Der Verkehr auf der Gegenseite ist nicht betroffen. Die Straßenmeisterei bittet alle Fahrer um Geduld und um Rücksicht auf die Menschen, die dort bei jedem Wetter arbeiten, und verweist auf die Karte aller Baustellen auf ihrer Seite.",
        [
            ("Weststadt", "Harlingen", "Freitag"),
            ("Aschfurt", "Mühltal", "Dienstag"),
            ("Lohberg", "Weststadt", "Montag"),
        ],
    ),
    (
        "en",
        "sponsored",
        "Sponsored: with the code {} our readers get {} percent off {} at {} until {}. Shipping is free, returns within 30 days, no subscription needed. This line is paid for by the advertiser and has no influence on what our newsroom writes.",
        [
            ("NIGHT", "15", "red torches", "Lamp House", "Sunday"),
            ("WARM", "20", "thermal boots", "Fell & Ford", "31 May"),
            ("STARS", "10", "star charts", "Paper Sky", "Friday"),
        ],
    ),
    (
        "fr",
        "sponsored",
        "Annonce : avec le code {} nos lecteurs ont {} pour cent de remise sur {} chez {} jusqu’à {}. Livraison offerte, retour sous 30 jours, sans abonnement. Cette ligne est payée par l’annonceur et n’a aucune influence sur ce que notre rédaction écrit.",
        [
            ("NUIT", "15", "les lampes rouges", "Maison Lampe", "dimanche"),
            ("CHAUD", "20", "les bottes", "Fell et Ford", "mardi"),
            ("CIEL", "10", "les cartes du ciel", "Papier Ciel", "vendredi"),
        ],
    ),
    (
        "zh",
        "traffic",
        "因道路施工，{}至{}之间的公路从{}起封闭至{}。绕行路线经过{}，沿途设有标志。{}路公交车改在市场停靠，不再停靠教堂。交通部门请司机多留十分钟时间，并感谢大家的耐心与配合。",
        [
            ("西城", "东村", "5月3日", "5月7日", "南镇", "12"),
            ("北岭", "南镇", "6月12日", "6月19日", "西城", "7"),
            ("东村", "北岭", "7月1日", "7月4日", "河口", "31"),
        ],
    ),
    (
        "ar",
        "notice",
        "يعقد نادي {} اجتماعه الشهري يوم {} في الساعة {} في قاعة {}. يتحدث {} عن موضوع جديد، وبعد ذلك يجيب عن أسئلة الحاضرين. الدخول مجاني والجميع مرحب بهم، والشاي والقهوة في الاستراحة كالعادة.",
        [
            ("الوادي", "الثلاثاء", "7", "المكتبة", "سامي"),
            ("الجبل", "الجمعة", "6", "المدرسة", "ليلى"),
            ("النهر", "الأحد", "8", "البلدية", "كريم"),
        ],
    ),
    (
        "en",
        "event",
        "On {} at {} {} speaks in the village hall about {}. Doors open half an hour before. Admission is free, and a hat goes round for the roof. Seats cannot be reserved, so come early, and bring a cushion because the benches are hard. Tea and cake are sold in the break by the Friends of the Hall, who thank all who help.",
        [
            ("Friday", "19:30", "Dr Lane", "bats in old barns"),
            ("Tuesday", "18:00", "Mrs Cole", "the lost railway"),
            ("Saturday", "20:00", "Tom Reed", "winter stars"),
        ],
    ),
    (
        "tr",
        "event",
        "{} günü saat {} köy salonunda {} {} hakkında konuşacak. Kapılar yarım saat önce açılır. Giriş ücretsizdir ve çatı için bir şapka dolaştırılır. Yer ayırtılamaz, bu yüzden erken gelin ve sıralar sert olduğu için bir minder getirin. Arada çay ve kek satılır.",
        [
            ("Cuma", "19:30", "Ayşe Hanım", "eski ahırlardaki yarasalar"),
            ("Salı", "18:00", "Mehmet Bey", "kayıp demiryolu"),
            ("Cumartesi", "20:00", "Deniz Kaya", "kış yıldızları"),
        ],
    ),
)
_CORRECTED = (
    (
        "en",
        "The council of Weston wants to spend 240,000 euros on the swimming pool next year. The roof leaks in 14 places, and the boiler dates from 1987. Councillor Ann Firth said the work would take 9 months. The pool had 31,000 visitors last year, most of them children from the 6 schools of the town. A decision is due on 12 March.",
        (
            ("240,000", "260,000"),
            ("14", "17"),
            ("31,000", "28,500"),
            ("Firth", "Frith"),
            ("12 March", "14 March"),
            ("1987", "1978"),
        ),
    ),
    (
        "de",
        "Der Rat von Weststadt will im nächsten Jahr 240.000 Euro für das Schwimmbad ausgeben. Das Dach ist an 14 Stellen undicht, und der Kessel stammt aus dem Jahr 1987. Ratsfrau Anna Firth sagte, die Arbeiten dauerten 9 Monate. Das Bad hatte im vergangenen Jahr 31.000 Gäste, die meisten davon Kinder aus den 6 Schulen der Stadt. Entschieden wird am 12. März.",
        (
            ("240.000", "260.000"),
            ("14", "17"),
            ("31.000", "28.500"),
            ("Firth", "Frith"),
            ("12. März", "14. März"),
            ("1987", "1978"),
        ),
    ),
    (
        "zh",
        "西城议会计划明年拨款24万元修缮游泳馆。屋顶有14处漏水，锅炉还是1987年安装的。议员林安说，工程需要9个月。游泳馆去年接待了31000人，其中大多数是城里6所学校的孩子。议会将在3月12日作出决定。",
        (("24", "26"), ("14", "17"), ("31000", "28500"), ("林安", "林岸"), ("3月12日", "3月14日")),
    ),
    (
        "en",
        "A car hit a lamp post in Mill Street on Sunday evening. The driver, 34, was slightly hurt. Police put the damage at 8,000 euros and ask people who saw the accident to call the station in Weston.",
        (("34", "43"), ("8,000", "6,000"), ("Sunday", "Saturday")),
    ),
    (
        "fr",
        "Une voiture a heurté un lampadaire rue du Moulin dimanche soir. Le conducteur, 34 ans, a été légèrement blessé. La police estime les dégâts à 8 000 euros et prie les témoins d’appeler le poste de Weston.",
        (("34", "43"), ("8 000", "6 000"), ("dimanche", "samedi")),
    ),
)
_RELEASES = (
    (
        "en",
        "The Weston Museum of Clocks has bought a tower clock made in 1790 by Josiah Lane. It cost 45,000 euros, half of which came from the county. The clock stood in a barn for sixty years and will be shown from 1 June. “It still runs,” said director Mary Holt, “and it loses only four minutes a day.” Restoring it took two years.",
        ["", "Weston. Good news for friends of old time pieces:", "The museum has a new piece."],
        ["", "Our reader Jo Park was the first to see it.", "Tickets cost 6 euros."],
    ),
    (
        "de",
        "Das Weststädter Uhrenmuseum hat eine Turmuhr gekauft, die Josef Lahn im Jahr 1790 gebaut hat. Sie kostete 45.000 Euro, die Hälfte kam vom Kreis. Die Uhr stand sechzig Jahre in einer Scheune und ist vom 1. Juni an zu sehen. „Sie geht noch“, sagte Direktorin Maria Holt, „und verliert nur vier Minuten am Tag.“ Die Arbeiten dauerten zwei Jahre.",
        ["", "Weststadt. Gute Nachricht für Freunde alter Uhren:", "Das Museum hat ein neues Stück."],
        ["", "Unsere Leserin Jo Park hat sie zuerst gesehen.", "Karten kosten 6 Euro."],
    ),
)


def likeness_pairs() -> Iterator[Alike]:
    """Yield the pairs."""
    for language, kind, form, facts in _FORMS:
        for one, other in combinations([form.format(*given) for given in facts], 2):
            yield Alike(language, kind, one, other, same=False)
    for language, text, changes in _CORRECTED:
        for old, new in changes:
            yield Alike(language, "corrected", text, text.replace(old, new), same=True)
        (first, other_first), (second, other_second), *_ = changes
        both = text.replace(first, other_first).replace(second, other_second)
        yield Alike(language, "corrected twice", text, both, same=True)
    for language, body, leads, ends in _RELEASES:
        texts = [f"{lead} {body} {end}".strip() for lead, end in zip(leads, ends, strict=True)]
        for one, other in combinations(texts, 2):
            yield Alike(language, "press release", one, other, same=True)
