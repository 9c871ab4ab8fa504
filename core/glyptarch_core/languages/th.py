"""Words of Thai."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="th",
    spaced=False,
    quotes=("“", "”", "‘", "’"),
    titles=words("ดร นพ พล.อ ศ"),
    abbreviations=words("กม จ ต น ม.ค ก.พ มี.ค เม.ย พ.ค มิ.ย ก.ค ส.ค ก.ย ต.ค พ.ย ธ.ค"),
    byline=phrases("โดย | เขียนโดย | เรื่องโดย | ผู้เขียน"),
    dated=phrases("เผยแพร่ | เผยแพร่เมื่อ | ปรับปรุงล่าสุด | อัปเดต | วันที่"),
    date_words=words("น เวลา พ.ศ เมื่อ ที่"),
    today=phrases("วันนี้"),
    yesterday=phrases("เมื่อวาน | เมื่อวานนี้"),
    notices=phrases("สมัครรับจดหมายข่าว | จดหมายข่าวของเรา | โฆษณา | สงวนลิขสิทธิ์ | ติดตามเรา | แชร์บทความนี้ | เราใช้คุกกี้"),
    read_more=phrases("อ่านต่อ | อ่านเพิ่มเติม | อ่านทั้งหมด | ดูเพิ่มเติม | ข่าวที่เกี่ยวข้อง"),
    next_page=phrases("ถัดไป | หน้าถัดไป | เก่ากว่า | ดูเพิ่มเติม | โหลดเพิ่ม"),
    consent=phrases("เราใช้คุกกี้ | เว็บไซต์นี้ใช้คุกกี้ | ความเป็นส่วนตัวของคุณ | การตั้งค่าคุกกี้"),
    agree=phrases("ยอมรับ | ยอมรับทั้งหมด | ปฏิเสธ | ตกลง"),
    paywall=phrases("เฉพาะสมาชิก | สำหรับสมาชิกเท่านั้น | เพื่ออ่านต่อ | สมัครสมาชิกเพื่ออ่าน"),
    missing=phrases("ไม่พบหน้า | ไม่พบ | ไม่มีอยู่ | ปฏิเสธการเข้าถึง"),
    login=phrases("เข้าสู่ระบบ | รหัสผ่าน"),
)
