"""Words of Turkish."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="tr",
    quotes=("“", "”", "‘", "’"),
    titles=words("av doç dr prof sn"),
    abbreviations=words("bkz cad çev ed haz mah no örn s sok st şti tel vb vd vs yy"),
    openers=words(
        "ama ancak bir biz bu bunu burada çok da daha de diye fakat gibi ben için ile ise kadar ki o "
        "olarak onlar sonra şimdi ve ya"
    ),
    byline=phrases("yazan | yazar | haber | metin | hazırlayan"),
    dated=phrases("yayınlanma | yayınlandı | yayımlandı | güncellendi | güncelleme | son güncelleme | giriş"),
    date_words=words("saat tarihinde"),
    today=phrases("bugün"),
    yesterday=phrases("dün"),
    notices=phrases(
        "bültenimize abone olun | bültenimize kaydolun | reklam | tüm hakları saklıdır | bizi takip edin "
        "| haberi paylaş | çerezleri kullanıyoruz | çerez kullanıyoruz"
    ),
    read_more=phrases("devamını oku | devamı | daha fazla oku | ayrıca okuyun | ilgili haberler | okumaya devam et"),
    next_page=phrases(
        "sonraki | sonraki sayfa | ileri | daha eski | eski yazılar | daha fazla göster | daha fazla yükle"
    ),
    consent=phrases(
        "çerezleri kullanıyoruz | çerez kullanıyoruz | biz ve ortaklarımız | gizliliğiniz | çerez ayarları"
    ),
    agree=phrases("kabul et | tümünü kabul et | kabul ediyorum | reddet"),
    paywall=phrases("sadece aboneler | yalnızca aboneler | okumaya devam etmek için | abone ol | zaten abone misiniz"),
    missing=phrases("bulunamadı | mevcut değil | erişim engellendi | sunucu hatası"),
    login=phrases("giriş yap | şifre"),
    tagged=phrases("etiketler | anahtar kelimeler | konular"),
    buying=phrases("sepete ekle | satın al"),
)
