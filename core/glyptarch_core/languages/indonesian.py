"""Words of Indonesian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="id",
    quotes=("“", "”", "‘", "’"),
    titles=words("dr drs ir prof"),
    abbreviations=words("dll dsb dst jl no sdr tgl"),
    openers=words("dan dari di ia ini itu kami karena ke mereka pada saya tetapi tidak untuk yang"),
    byline=phrases("oleh | penulis | ditulis oleh | reporter"),
    dated=phrases("diterbitkan | dipublikasikan | diperbarui | terbit"),
    date_words=words("pukul pada wib"),
    today=phrases("hari ini"),
    yesterday=phrases("kemarin"),
    notices=phrases(
        "berlangganan newsletter | newsletter kami | buletin kami | iklan | hak cipta dilindungi | ikuti "
        "kami | bagikan artikel | kami menggunakan cookie"
    ),
    read_more=phrases("baca selengkapnya | baca juga | selengkapnya | lanjutkan membaca | lihat juga"),
    next_page=phrases("selanjutnya | berikutnya | halaman berikutnya | lebih lama | muat lebih banyak | lihat lainnya"),
    consent=phrases("kami menggunakan cookie | privasi anda | pengaturan cookie"),
    agree=phrases("terima | terima semua | setuju | tolak"),
    paywall=phrases("khusus pelanggan | untuk melanjutkan membaca | berlangganan untuk membaca"),
    missing=phrases("tidak ditemukan | tidak ada | akses ditolak | kesalahan server"),
    login=phrases("masuk | kata sandi"),
    tagged=phrases("tag | label | kata kunci | topik"),
    buying=phrases("tambah ke keranjang | masukkan keranjang | beli sekarang"),
)
