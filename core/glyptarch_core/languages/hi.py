"""Words of Hindi."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="hi",
    quotes=("“", "”", "‘", "’"),
    titles=words("डॉ प्रो श्री पं"),
    byline=phrases("लेखक | द्वारा | रिपोर्ट"),
    dated=phrases("प्रकाशित | प्रकाशन तिथि | अपडेट | अपडेटेड | अंतिम अद्यतन"),
    date_words=words("को बजे पर"),
    today=phrases("आज"),
    yesterday=phrases("कल"),
    notices=phrases(
        "हमारे न्यूज़लेटर की सदस्यता लें | हमारे न्यूज़लेटर | विज्ञापन | सर्वाधिकार सुरक्षित | हमें फॉलो "
        "करें | इस लेख को साझा करें | हम कुकीज़ का उपयोग"
    ),
    read_more=phrases("और पढ़ें | आगे पढ़ें | यह भी पढ़ें | इसे भी पढ़ें | पूरा पढ़ें"),
    next_page=phrases("अगला | अगला पृष्ठ | आगे | पुराने | और देखें | और लोड करें"),
    consent=phrases("हम कुकीज़ का उपयोग | आपकी गोपनीयता | कुकी सेटिंग्स"),
    agree=phrases("स्वीकार | स्वीकार करें | सहमत | अस्वीकार"),
    paywall=phrases("केवल ग्राहकों के लिए | केवल सदस्यों के लिए | पढ़ना जारी रखने के लिए | सदस्यता लें"),
    missing=phrases("नहीं मिला | पृष्ठ नहीं मिला | मौजूद नहीं | सर्वर त्रुटि"),
    login=phrases("लॉग इन | पासवर्ड"),
    tagged=phrases("टैग | विषय | कीवर्ड"),
    buying=phrases("कार्ट में डालें | कार्ट में जोड़ें | खरीदें"),
)
