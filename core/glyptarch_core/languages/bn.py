"""Words of Bengali."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="bn",
    quotes=("“", "”", "‘", "’"),
    titles=words("ডা ড অধ্যাপক"),
    byline=phrases("লেখক | লিখেছেন | প্রতিবেদক | নিজস্ব প্রতিবেদক"),
    dated=phrases("প্রকাশিত | প্রকাশ | আপডেট | সর্বশেষ আপডেট"),
    date_words=words("এ"),
    today=phrases("আজ"),
    yesterday=phrases("গতকাল"),
    notices=phrases("আমাদের নিউজলেটার | বিজ্ঞাপন | সর্বস্বত্ব সংরক্ষিত | আমাদের অনুসরণ করুন | আমরা কুকি ব্যবহার"),
    read_more=phrases("আরও পড়ুন | আরো পড়ুন | বিস্তারিত | আরও"),
    next_page=phrases("পরবর্তী | পরের পাতা | পুরনো | আরও দেখুন"),
    consent=phrases("আমরা কুকি ব্যবহার | আপনার গোপনীয়তা"),
    agree=phrases("গ্রহণ করুন | সম্মত | প্রত্যাখ্যান"),
    paywall=phrases("শুধুমাত্র গ্রাহকদের জন্য | পড়া চালিয়ে যেতে | সাবস্ক্রাইব করুন"),
    missing=phrases("পাওয়া যায়নি | বিদ্যমান নেই | সার্ভার ত্রুটি"),
    login=phrases("লগ ইন | পাসওয়ার্ড"),
    tagged=phrases("ট্যাগ | বিষয়"),
    buying=phrases("কার্টে যোগ করুন | কিনুন"),
)
