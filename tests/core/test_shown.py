"""Tags and prices that pages show without stating them as data."""

from unittest import mock

from django.test import SimpleTestCase
from glyptarch_core.pages import shown as module
from glyptarch_core.pages.document import ArticlePage
from glyptarch_core.pages.page import load_page
from glyptarch_core.pages.propose import propose_lists
from glyptarch_core.pages.reading import ArticleRead, item_of, read_article, read_list

_TEXT = "".join(
    f"<p>{line}</p>"
    for line in (
        "The lens was ground by hand at the old mill, and it took eleven weeks before it was clear enough.",
        "Whoever looks through it sees the rings of the planet, and on a still night the gap between them.",
        "The stand is of ash, and folds into a bag that a child can carry up the hill without a rest.",
    )
)


def _read(after: str = "", *, before: str = "", language: str = "en", around: str = "") -> ArticleRead:
    body = f"<main><article><h1>A lens from the mill</h1>{before}<div>{_TEXT}</div>{after}</article></main>{around}"
    page = load_page(f"<html lang='{language}'><body>{body}</body></html>".encode(), url="https://mill.example/lens")
    return read_article(page, ArticlePage())


class Tags(SimpleTestCase):
    def test_each_usual_form_is_read(self) -> None:
        for form in (
            "<p>Filed by <a rel='tag' href='/t/lenses'>lenses</a> and <a rel='category tag' href='/t/hills'>Hills</a></p>",
            "<ul class='post-tags'><li><a href='/t/1'>#lenses</a></li><li><a href='/t/2'>Hills</a></li></ul>",
            "<p>Tags: <a href='/t/1'>lenses</a>, <a href='/t/2'>Hills</a></p>",
            "<p>Filed under: lenses, Hills</p>",
            "<div><b>Topics</b> <a href='/t/1'>lenses</a> <a href='/t/2'>Hills</a></div>",
            "<dl><dt>Keywords:</dt><dd>lenses</dd><dd>Hills</dd></dl>",
            "<footer class='tags'><a href='/t/1'>lenses</a> · <a href='/t/2'>Hills</a></footer>",
        ):
            with self.subTest(form=form):
                self.assertEqual(_read(form).fields.get("tags"), "lenses, Hills")

    def test_labels_are_known_in_the_language_of_the_page(self) -> None:
        for language, form in (
            ("de", "<p>Schlagwörter: Linsen; Hügel</p>"),
            ("fr", "<p>Mots-clés : Linsen, Hügel</p>"),
            ("ja", "<p>タグ：Linsen、Hügel</p>"),
            ("ar", "<p>الوسوم: Linsen، Hügel</p>"),
        ):
            with self.subTest(language=language):
                self.assertEqual(_read(form, language=language).fields.get("tags"), "Linsen, Hügel")

    def test_what_only_looks_like_tags_is_none(self) -> None:
        cloud = "".join(f"<a href='/t/{number}'>word {number}</a> " for number in range(30))
        for form in (
            "<p>Topics discussed at the mill are lenses, hills and the price of ash.</p>",
            f"<div class='tags'>{cloud}</div>",
            f"<div class='tag-cloud'>{cloud[:90]}</a></div>",
            "<p>Labels of the boxes are blue.</p>",
        ):
            with self.subTest(form=form):
                self.assertNotIn("tags", _read(form).fields)
        menu = "<aside><ul class='tags'><li><a href='/t/1'>other</a></li></ul></aside>"
        self.assertNotIn("tags", _read(around=menu).fields)

    def test_what_the_page_states_comes_first(self) -> None:
        page = load_page(
            b"<head><meta name='keywords' content='stated'></head><body><h1>A lens from the mill</h1>"
            + _TEXT.encode()
            + b"<p>Tags: shown</p></body>",
            url="https://mill.example/lens",
        )
        self.assertEqual(read_article(page, ArticlePage()).fields["tags"], "stated")

    def test_they_become_categories_of_the_item(self) -> None:
        self.assertEqual(item_of(_read("<p>Tags: lenses, Hills</p>"), source="mill").categories, ("lenses", "Hills"))


_BUY = "<button>Add to basket</button>"


class Prices(SimpleTestCase):
    def price(self, before: str, *, after: str = "", language: str = "en") -> tuple[str | None, str | None]:
        fields = _read(after, before=before, language=language).fields
        return fields.get("price"), fields.get("currency")

    def test_the_price_beside_the_title_is_read_with_its_currency(self) -> None:
        for language, shown, price, currency in (
            ("en", f"<p class='price'>£24.90</p>{_BUY}", "£24.90", "£"),
            ("de", "<div><span>1.299,00 €</span></div><button>In den Warenkorb</button>", "1.299,00 €", "€"),
            ("pl", "<b>49,90 zł</b><a href='/k'>Dodaj do koszyka</a>", "49,90 zł", "zł"),
            ("cs", "<div class='cena'>1 290 Kč</div><input type='submit' value='Do košíku'>", "1 290 Kč", "Kč"),
            ("ja", "<span>1,200円</span><button>カートに入れる</button>", "1,200円", "円"),
            ("sv", "<span>299 kr</span><button>Lägg i varukorgen</button>", "299 kr", "kr"),
        ):
            with self.subTest(language=language):
                self.assertEqual(self.price(shown, language=language), (price, currency))

    def test_a_struck_price_and_one_for_a_unit_are_not_the_price(self) -> None:
        shown = f"<p><del><b>€30.00</b></del> <ins>€24.90</ins></p><p class='unit-price'>€2.49</p>{_BUY}"
        self.assertEqual(self.price(shown), ("€24.90", "€"))
        shown = f"<p><span class='old-price'>€30.00</span> <span class='price-now'>€24.90</span></p>{_BUY}"
        self.assertEqual(self.price(shown), ("€24.90", "€"))

    def test_other_things_further_off_have_prices_of_their_own(self) -> None:
        others = "<ul><li>A bag <span class='price'>€9.00</span></li></ul>"
        self.assertEqual(self.price(f"<div><span>€24.90</span>{_BUY}</div>", after=others)[0], None)
        shown = f"<p class='price'>€24.90</p>{_BUY}<p>€4.90</p>"
        self.assertEqual(self.price(shown)[0], "€24.90")
        page = load_page(
            f"<body><main><div><h1>A lens</h1><span>€24.90</span>{_BUY}</div>{_TEXT}{others}</main></body>".encode(),
            url="https://mill.example/lens",
        )
        self.assertEqual(read_article(page, ArticlePage()).fields["price"], "€24.90")

    def test_of_several_prices_none_is_right(self) -> None:
        self.assertEqual(self.price(f"<span>€24.90</span><span>€49.90</span>{_BUY}"), (None, None))

    def test_an_article_that_names_a_price_sells_nothing(self) -> None:
        self.assertEqual(self.price("<p>Entry €5</p>"), (None, None))
        for shown in (
            f"<p>Only 3 left</p>{_BUY}",
            f"<p>from €5</p>{_BUY}",
            "<p>€5</p><a href='/t'>Buy a ticket for the fair</a>",
        ):
            with self.subTest(shown=shown):
                self.assertEqual(self.price(shown), (None, None))
        self.assertEqual(self.price(f"<p>Price: €5 incl. VAT</p>{_BUY}"), ("Price: €5 incl. VAT", "€"))

    def test_a_page_is_looked_through_once_however_deep_its_title_stands(self) -> None:
        deep = "<div>" * 150 + "<h1>A lens from the mill</h1>" + "<span>€1</span>" * 300 + "</div>" * 150
        page = load_page(f"<body>{_BUY}{deep}{_TEXT}</body>".encode(), url="https://mill.example/lens")
        with mock.patch.object(module, "_prices_in", wraps=module._prices_in) as looked:
            self.assertEqual(module.find_price(page, page.body.find(".//h1")), "€1")
        self.assertEqual(looked.call_count, 1)

    def test_the_item_has_it_as_a_number(self) -> None:
        facts = item_of(_read(before=f"<span>€24.90</span>{_BUY}"), source="mill").facts
        self.assertEqual((facts["price"], facts["currency"]), (24.9, "€"))

    def test_a_list_shows_prices_in_any_currency(self) -> None:
        rows = "".join(
            f"<li><a href='/p/{n}'>Lens number {n} from the mill</a><div><s>{n + 9},00 zł</s> <em>{n},90 zł</em></div></li>"
            for n in range(1, 9)
        )
        page = load_page(f"<body><ul>{rows}</ul></body>".encode(), url="https://mill.example/")
        entries = read_list(page, propose_lists(page)[0].settings).entries
        self.assertEqual([entry.price for entry in entries][:3], ["1,90 zł", "2,90 zł", "3,90 zł"])
