/** Passwords of ten characters and more that lists of leaked ones hold again and again; shorter ones are refused by their length. */
export const COMMON_PASSWORDS: ReadonlySet<string> = new Set(
  `1234567890 12345678910 0123456789 0987654321 1q2w3e4r5t 1q2w3e4r5t6y qwertyuiop qwerty12345 qwerty123456 qwertyuiop123 asdfghjkl1 asdfghjkl123 zxcvbnm123 password12 password123 password1234
password12345 passw0rd123 password01 password2024 password2025 password2026 letmein123 letmein1234 welcome123 welcome1234 iloveyou12 iloveyou123 iloveyou1234 sunshine12 sunshine123 princess12 princess123
football12 football123 baseball12 baseball123 basketball superman12 superman123 batman1234 dragon1234 monkey1234 michael123 charlie123 jordan1234 trustno1234 changeme12 changeme123 changeme1234 administrator admin12345 admin123456
administrator1 abc1234567 abcd123456 abcdefghij abcdefgh12 abcdefg123 a123456789 aa12345678 aaaaaaaaaa 1111111111 0000000000 9999999999 1122334455 1212121212 123123123123 1231231231 123456789a 123456789q 123qweasdzxc
1qaz2wsx3edc zaq12wsxcde qazwsxedcrfv q1w2e3r4t5 q1w2e3r4t5y6 computer123 internet12 internet123 starwars123 whatever12 whatever123 starwars12 hello12345 hello123456 testtest12 test123456 test1234567 testpassword university student123
student1234 dentist123 dental1234 dentistry1 dentistry123 instructor veritor123 veritor1234 secret1234 secret12345 summer2024 summer2025 summer2026 winter2024 winter2025 winter2026 autumn2026 spring2026 january2026 qwertzuiop qwertz12345
passwort123 passwort1234 hallo12345 schatz1234 azertyuiop azerty12345 motdepasse motdepasse1 contraseña contrasena contrasena1 senha12345 liverpool1 liverpool12 manchester barcelona1 barcelona123`
    .split(/\s+/)
    .filter(Boolean),
);
