"""Every address of the application."""

from django.contrib.auth import views as auth
from django.urls import path

from extendum.web.accounts import views as accounts
from extendum.web.classes import adding, brief, checking, desk, fitting, reading, shelf, tour, words
from extendum.web.giving import views as giving
from extendum.web.guide import views as guide
from extendum.web.library import figures
from extendum.web.moves import own
from extendum.web.moves import views as moves
from extendum.web.proposing import views as proposing
from extendum.web.records import views as records
from extendum.web.teach import clicker, learning, links, room, takes
from extendum.web.teach import views as teach
from extendum.web.voices import cutting, hearing, music
from extendum.web.voices import views as voices

handler400 = "extendum.web.faults.bad_request"
handler500 = "extendum.web.faults.server_error"

urlpatterns = [
    path("sign-in/", auth.LoginView.as_view(template_name="accounts/sign_in.html"), name="sign-in"),
    path("sign-out/", auth.LogoutView.as_view(), name="sign-out"),
    path("", shelf.shelf, name="shelf"),
    path("read-in/", reading.read_in, name="read-in"),
    path("settings/", accounts.settings_page, name="settings"),
    path("help/", guide.help_page, name="help"),
    path("classes/<int:pk>/what-if/", fitting.what_if, name="what-if"),
    path("finder/", guide.finder, name="finder"),
    path("tour/", tour.tour, name="tour"),
    path("classes/new/", shelf.make, name="make"),
    path("classes/<int:pk>/", desk.desk, name="desk"),
    path("classes/<int:pk>/edit/", desk.edit, name="edit"),
    path("classes/<int:pk>/brief/", brief.brief, name="brief"),
    path("classes/<int:pk>/audience/", brief.keep_audience, name="keep-audience"),
    path("classes/<int:pk>/proposals/", proposing.proposals, name="proposals"),
    path("classes/<int:pk>/proposals/begin/", proposing.begin, name="begin-proposals"),
    path("classes/<int:pk>/proposals/enough/", proposing.enough, name="enough"),
    path("classes/<int:pk>/proposals/why/", proposing.why, name="why-not"),
    path("classes/<int:pk>/proposals/why/ask/", proposing.ask_why, name="ask-why"),
    path("classes/<int:pk>/proposals/take/", proposing.take, name="take-proposal"),
    path("classes/<int:pk>/preview/", fitting.preview, name="preview"),
    path("classes/<int:pk>/versions/", fitting.versions_page, name="versions"),
    path("classes/<int:pk>/versions/keep/", fitting.keep_version, name="keep-version"),
    path("classes/<int:pk>/stand-ins/", proposing.stand_ins_dialog, name="stand-ins"),
    path("classes/<int:pk>/order/", fitting.order_dialog, name="order"),
    path("classes/<int:pk>/step/", desk.step, name="step"),
    path("classes/<int:pk>/table/", desk.sheet_table, name="sheet-table"),
    path("classes/<int:pk>/steps/", desk.steps, name="steps"),
    path("classes/<int:pk>/style/", desk.keep_style, name="keep-style"),
    path("classes/<int:pk>/checks/", checking.checks, name="checks"),
    path("classes/<int:pk>/remedy/", checking.remedy, name="remedy"),
    path("classes/<int:pk>/words/", words.words, name="words"),
    path("classes/<int:pk>/words/speech/", words.speech, name="speech"),
    path("classes/<int:pk>/words/calibrate/", words.calibrate, name="calibrate"),
    path("classes/<int:pk>/readings/", voices.readings, name="readings"),
    path("classes/<int:pk>/readings/voice/", voices.new_voice, name="new-voice"),
    path("classes/<int:pk>/readings/take-in/", voices.take_in, name="take-in"),
    path("sound/<int:pk>/<int:voice>/keep/", voices.keep_reading, name="keep-reading"),
    path("classes/<int:pk>/readings/<int:voice>/forget/", voices.forget_reading, name="forget-reading"),
    path("sound/<int:pk>/<int:voice>/recording/", cutting.read_recording, name="read-recording"),
    path("classes/<int:pk>/readings/<int:voice>/<slug:name>/", cutting.cutting, name="cutting"),
    path("classes/<int:pk>/readings/<int:voice>/<slug:name>/keep/", cutting.keep_cuts, name="keep-cuts"),
    path("classes/<int:pk>/readings/<int:voice>/<slug:name>/forget/", cutting.forget_cuts, name="forget-cuts"),
    path("classes/<int:pk>/music/", music.music, name="music"),
    path("classes/<int:pk>/music/choose/", music.choose_music, name="choose-music"),
    path("classes/<int:pk>/music/<int:piece>/remove/", music.remove_music, name="remove-music"),
    path("sound/<int:pk>/music/", music.add_music, name="add-music"),
    path("classes/<int:pk>/hear/", hearing.hear, name="hear"),
    path("voices/<int:voice>/recording/<slug:name>/", cutting.cutting_sound, name="cutting-sound"),
    path("voices/<int:voice>/<int:reading>/", voices.sound, name="reading-sound"),
    path("classes/<int:pk>/rename/", shelf.rename, name="rename"),
    path("classes/<int:pk>/length-known/", shelf.length_known, name="length-known"),
    path("classes/<int:pk>/duplicate/", shelf.duplicate, name="duplicate"),
    path("classes/<int:pk>/archive/", shelf.archive, name="archive"),
    path("classes/<int:pk>/mend/", shelf.mend, name="mend"),
    path("classes/<int:pk>/restore/", shelf.restore, name="restore"),
    path("classes/<int:pk>/document/", shelf.document, name="document"),
    path("classes/<int:pk>/stage/", teach.stage, name="stage"),
    path("classes/<int:pk>/rehearse/", teach.rehearse, name="rehearse"),
    path("classes/<int:pk>/take/", teach.take, name="take"),
    path("classes/<int:pk>/takes/<slug:key>/", takes.takes_page, name="takes"),
    path("classes/<int:pk>/takes/<slug:key>/<slug:kind>/", takes.take_file, name="take-file"),
    path("classes/<int:pk>/learned/", learning.learned, name="learned"),
    path("classes/<int:pk>/events/", teach.events, name="events"),
    path("classes/<int:pk>/catch-up/", teach.catch_up, name="catch-up"),
    path("classes/<int:pk>/presses/", clicker.presses, name="presses"),
    path("classes/<int:pk>/card/", records.card, name="card"),
    path("classes/<int:pk>/next-time/", records.next_time, name="next-time"),
    path("logbook/", records.logbook, name="logbook"),
    path("logbook/plan/", records.plan, name="plan"),
    path("logbook/overview/", records.overview, name="overview"),
    path("logbook/sessions.csv", records.sessions_csv, name="sessions-csv"),
    path("logbook/<int:pk>/", records.session, name="session"),
    path("classes/<int:pk>/give/", giving.give, name="give"),
    path("classes/<int:pk>/give/file/<slug:kind>/", giving.give_file, name="give-file"),
    path("classes/<int:pk>/give/make/", giving.make, name="make-file"),
    path("classes/<int:pk>/give/<int:making>/", giving.making, name="making"),
    path("classes/<int:pk>/give/<int:making>/file/", giving.made, name="made"),
    path("screens/", links.links, name="links"),
    path("screens/<int:pk>/", links.link, name="link"),
    path("room/<slug:code>/", room.room, name="room"),
    path("room/<slug:code>/now/", room.now, name="room-now"),
    path("room/<slug:code>/captions/", room.captions, name="room-captions"),
    path("clicker/<slug:code>/", clicker.clicker, name="clicker"),
    path("clicker/<slug:code>/now/", clicker.now, name="clicker-now"),
    path("clicker/<slug:code>/press/", clicker.press, name="press"),
    path("worker.js", teach.worker, name="worker"),
    path("classes/<int:pk>/opened/", teach.opened, name="opened"),
    path("classes/<int:pk>/taught/", teach.taught, name="taught"),
    path("classes/<int:pk>/found/", adding.found, name="found"),
    path("classes/<int:pk>/newer/", adding.newer, name="newer"),
    path("moves/", moves.moves, name="moves"),
    path("moves/new/", own.new_move, name="new-move"),
    path("moves/<slug:key>/", moves.move, name="move"),
    path("moves/<slug:key>/figure.svg", figures.figure, name="figure"),
    path("moves/<slug:key>/figure.json", figures.moves, name="figure-moves"),
    path("moves/<slug:key>/edit/", own.edit_move, name="edit-move"),
    path("moves/<slug:key>/remove/", own.remove_move, name="remove-move"),
    path("moves/<slug:key>/put-back/", own.put_back, name="put-back-move"),
]
