"""Words of Persian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="fa",
    quotes=("«", "»", "‹", "›"),
    titles=words("دکتر مهندس"),
    byline=phrases("نویسنده | نوشته | گزارش"),
    dated=phrases("منتشر شده | تاریخ انتشار | به\u200cروزرسانی | آخرین به\u200cروزرسانی"),
    date_words=words("در ساعت"),
    today=phrases("امروز"),
    yesterday=phrases("دیروز"),
    notices=phrases(
        "عضویت در خبرنامه | خبرنامه ما | تبلیغات | آگهی | تمامی حقوق محفوظ است | ما را دنبال کنید | ما از کوکی"
    ),
    read_more=phrases("ادامه مطلب | بیشتر بخوانید | مطالب مرتبط | بیشتر"),
    next_page=phrases("بعدی | صفحه بعد | قدیمی\u200cتر | نمایش بیشتر"),
    consent=phrases("ما از کوکی | حریم خصوصی شما | تنظیمات کوکی"),
    agree=phrases("می\u200cپذیرم | قبول | پذیرش همه | رد"),
    paywall=phrases("فقط برای مشترکان | برای ادامه مطالعه | اشتراک بگیرید"),
    missing=phrases("پیدا نشد | یافت نشد | وجود ندارد | خطای سرور"),
    login=phrases("ورود | رمز عبور"),
    tagged=phrases("برچسب‌ها | برچسب ها | کلیدواژه‌ها | کلمات کلیدی"),
    buying=phrases("افزودن به سبد | افزودن به سبد خرید | خرید"),
)
