/** Passwords and their beginnings that are tried first, in small letters; digits and signs at the end left off count, too. */
export const COMMON_PASSWORDS: ReadonlySet<string> = new Set(
  `
000000000000 111111111111 112233445566 121212121212 123123123123 123456789012 1234567890123
12345678910 1q2w3e4r5t 1q2w3e4r5t6y 1qaz2wsx3edc 987654321098 abcdefghijkl abcdefghijklm
abracadabra abrakadabra admin admin123 admin1234567 administrator administrator1
administrator123 alexander123 alexandra123 amanda123456 andrew123456 anthony12345 april arsenal
asdfghjkl asdfghjklqwertyuiop ashley123456 august australia autumn autumn2026 babydoll123
babygirl1 backstreetboys barcelona baseball baseball1234 basketball batman batman123 batteries
battery battery123 batterylab batterylab123 bayernmunich blink182 brotherhood butterflies
butterfly california callofduty captainamerica changeme changethis charlie cheese cheeseburger
chelsea chewbacca chocolate1 christopher christopher1 cinnamon computer correct
correcthorsebatterystaple counterstrike cutiepie12 daniel123456 darthvader december default
defaultpassword deutschland dienstag donnerstag dontforget dragon dragon123456 dumbledore
dusk-tally-123 dusktally dusktally123 elizabeth123 familyfirst february firstlove football
football1234 fortnite123 frankreich freedom freitag friday frodobaggins fruhling fussball1234
gandalf1 geheimespasswort geheimgeheim gingerbread godisgood grandfather grandmother guest hallo
hallo1234567 hallohallo hallowelt hamburger hansolo123 harleydavidson harrypotter heartbreak
hello hellohello helloworld helloworld123 herbst hermionegranger honeybee123 honeybunny horse
icecream123 ichliebedich idontknow123 iforgotit iforgotmypassword ilovechocolate ilovemusic
iloveyou iloveyou1234 iloveyou12345 iloveyouforever iloveyousomuch internet ironmaiden
ironman123 january january2026 jennifer jennifer1234 jessica12345 jesuschrist jesusislord
jordan123456 joshua123456 july june juventus laboratory laboratory1 leagueoflegends letmein
letmein12345 letmeinnow letmeinplease linkinpark liverpool lordoftherings lovelovelove
lukeskywalker manager manager123 manchesterunited march master master123456 matthew12345 may
meinpasswort metallica michael michael12345 michelle1234 minecraft1 minecraft123 mittwoch monday
monkey monkey123456 montag motherfather motorcycle mychildren mypassword mysecretpassword
newpassword nicholas1234 nintendo64 nirvana1 nopassword nopassword123 notapassword november
november2026 october oldpassword opensesame openthedoor operator operator123 osterreich
p4ssw0rd1234 passw0rd1234 password password1 password1234 password12345 password123456
password2024 password2025 password2026 passwordpassword passwort passwort1234 passwort12345
peanutbutter pikachu123 pineapple playstation pleaseletmein pokemon popcorn123 princess
princess123 princess1234 q1w2e3r4t5y6 qazwsxedc qazwsxedcrfv qwerty123456 qwertyuiop
qwertyuiop12 qwertyuiop123 qwertyuiopasdfghjkl realmadrid root rootroot samstag samsung saturday
schatzschatz schweiz secret secretpassword secretsecret september sesameopen sesamstrasse shadow
shadow123456 sisterhood skateboard slipknot1 sommer2024 sommer2025 sommer2026 sonntag spiderman
spongebob spongebobsquarepants spring spring2026 staple starwars stephanie123 strawberry
sugarplum summer summer2024 summer2025 summer2026 sunday sunflower sunshine superadmin superman
superman123 superman1234 supersecret supersecret1 superuser123 supervisor supervisor123
sweetheart sweetheart1 system systemsystem technician technician123 temporary temporary123
temppass1234 temppassword test12345678 testing12345 testpassword testtesttest thispassword
thursday toor topsecret123 truelove123 trustno1 tuesday volleyball washington watermelon
wednesday welcome welcome123 welcome12345 welcome2024 welcome2025 welcome2026 welcomehome
whatever whatismypassword winter winter2024 winter2025 winter2026 wonderwoman worldofwarcraft
xboxlive123 zaq12wsxcde3 zxcvbnmasdfghjkl
`
    .trim()
    .split(/\s+/),
);
