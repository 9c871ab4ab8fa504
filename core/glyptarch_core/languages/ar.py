"""Words of Arabic."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="ar",
    locales=phrases("ar | ar_LB | ar_MA | ar_DZ"),
    quotes=("«", "»", "“", "”"),
    titles=words("أ د م"),
    abbreviations=words("إلخ"),
    byline=phrases("بقلم | كتب | كتبت | الكاتب | إعداد | تحرير"),
    dated=phrases("نشر | نشر في | تاريخ النشر | آخر تحديث | تم التحديث"),
    date_words=words("في الساعة م"),
    today=phrases("اليوم"),
    yesterday=phrases("أمس"),
    notices=phrases(
        "اشترك في نشرتنا | النشرة البريدية | نشرتنا الإخبارية | إعلان | جميع الحقوق محفوظة | تابعونا على "
        "| تابعنا على | شارك المقال | نستخدم ملفات تعريف الارتباط"
    ),
    read_more=phrases("اقرأ المزيد | اقرأ أيضا | اقرأ أيضاً | المزيد | تابع القراءة | مواضيع ذات صلة | طالع أيضا"),
    next_page=phrases("التالي | الصفحة التالية | المزيد | الأقدم | عرض المزيد | تحميل المزيد"),
    consent=phrases("نستخدم ملفات تعريف الارتباط | نحن وشركاؤنا | خصوصيتك | إعدادات ملفات تعريف الارتباط"),
    agree=phrases("موافق | أوافق | قبول | قبول الكل | رفض"),
    paywall=phrases("للمشتركين فقط | لمتابعة القراءة | اشترك الآن | مشترك بالفعل"),
    missing=phrases("غير موجودة | لم يتم العثور | الصفحة غير متوفرة | تم رفض الوصول | خطأ في الخادم"),
    login=phrases("تسجيل الدخول | كلمة المرور"),
    tagged=phrases("الوسوم | وسوم | كلمات مفتاحية | كلمات دلالية | المواضيع"),
    buying=phrases("أضف إلى السلة | أضف إلى العربة | اشتر الآن | شراء"),
)
