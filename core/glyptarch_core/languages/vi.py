"""Words of Vietnamese."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="vi",
    quotes=("“", "”", "‘", "’"),
    titles=words("bs gs pgs ths ts tp"),
    abbreviations=words("tr vd v.v"),
    byline=phrases("tác giả | bởi | theo | bài"),
    dated=phrases("đăng ngày | cập nhật | xuất bản | ngày đăng"),
    date_words=words("lúc ngày tháng năm"),
    today=phrases("hôm nay"),
    yesterday=phrases("hôm qua"),
    notices=phrases(
        "đăng ký nhận bản tin | bản tin của chúng tôi | bản quyền thuộc | theo dõi chúng tôi "
        "| chia sẻ bài viết | chúng tôi sử dụng cookie"
    ),
    read_more=phrases("đọc thêm | xem thêm | đọc tiếp | bài liên quan | tin liên quan"),
    next_page=phrases("tiếp | tiếp theo | trang sau | cũ hơn | xem thêm | tải thêm"),
    consent=phrases("chúng tôi sử dụng cookie | cài đặt cookie"),
    agree=phrases("đồng ý | chấp nhận | chấp nhận tất cả | từ chối"),
    paywall=phrases("chỉ dành cho | để đọc tiếp | đăng ký để đọc"),
    missing=phrases("không tìm thấy | không tồn tại | lỗi máy chủ"),
    login=phrases("đăng nhập | mật khẩu"),
    tagged=phrases("thẻ | từ khóa | chủ đề"),
    buying=phrases("thêm vào giỏ | thêm vào giỏ hàng | mua ngay"),
)
