"""Addresses: the API under /api/, everything else is the screen."""

from backups.api import DataView, HealthView
from bay.api import KitLoopView, KitView
from django.urls import path, re_path
from practice.api import (
    PracticeActsView,
    PracticeAskedView,
    PracticeLessonsView,
    PracticeLessonView,
    PracticeOfferedView,
    PracticeRecordCsvView,
    PracticeRecordView,
    PracticeRunsView,
    PracticeRunView,
    PracticeTruthView,
    PracticeView,
    PracticeWaitView,
)
from shelf.api import CansView, CanView, CountView, LotView, ShelfView
from shelf.waste_api import HandoverPhotoView, HandoversView, HandoverView, WasteCsvView, WasteView
from transfer.api import ArchiveView

from catalogue.api import AgentsView, AgentView, CatalogueView, ProductsView, ProductView, WatersView, WaterView
from compute.api import CALCULATORS
from config.names import NamesView
from config.reference import ReferenceView
from config.schema import SchemaView
from config.screen import ApiNotFoundView, screen, trust, trust_certificate
from config.trust import CERTIFICATE, PAGE
from depots.api import GettingStartedView, NightView, PolicyView, RuleView
from fleet.api import KindsView, LayoutsView, LoopSpecView, MachineCheckedView, MachineLoopsView, MachinesView, MachineView
from instruments.api import BiasView, InstrumentsView, InstrumentView, SampleView, TakeView, ZeroView
from instruments.log_api import (
    ExportView,
    ImportColumnsView,
    ImportProgressView,
    ImportsView,
    ImportView,
    LogView,
    OneImportView,
    TemplateView,
    WatchView,
)
from instruments.starter import StarterView
from jobs.api import (
    BoardView,
    CapacityView,
    DraftView,
    EntriesView,
    HistoryView,
    InspectionView,
    JobsView,
    LedgerView,
    LoopsView,
    LoopView,
    PreviewView,
    RejudgedView,
)
from jobs.back_api import CalendarView, LabelView, SeasonView, SheetPdfView, SheetView
from jobs.edit_api import EntryPreviewView, EntryView
from jobs.lesson_api import LessonsView
from jobs.photos_api import PhotosView, PhotoView
from jobs.plan_api import AppointmentView, AttentionView, FiguresCsvView, FiguresView, PlanView
from jobs.wall_api import WallLinksView, WallLinkView, WallView
from people.api import FirstRunView, SessionView
from people.people_api import (
    PeopleView,
    PersonDevicesView,
    PersonPasswordView,
    PersonTokenView,
    PersonView,
    ProfileDevicesView,
    ProfilePasswordView,
    ProfileTokensView,
    ProfileTokenView,
    ProfileView,
)

handler500 = "config.problems.server_error"
urlpatterns = [
    path("api/health", HealthView.as_view()),
    path("api/data", DataView.as_view()),
    path("api/archive", ArchiveView.as_view()),
    path("api/session", SessionView.as_view()),
    path("api/first-run", FirstRunView.as_view()),
    path("api/people", PeopleView.as_view()),
    path("api/people/<int:person_id>", PersonView.as_view()),
    path("api/people/<int:person_id>/password", PersonPasswordView.as_view()),
    path("api/people/<int:person_id>/devices", PersonDevicesView.as_view()),
    path("api/profile", ProfileView.as_view()),
    path("api/profile/password", ProfilePasswordView.as_view()),
    path("api/profile/devices", ProfileDevicesView.as_view()),
    path("api/profile/tokens", ProfileTokensView.as_view()),
    path("api/profile/tokens/<str:token_key>", ProfileTokenView.as_view()),
    path("api/people/<int:person_id>/tokens/<str:token_key>", PersonTokenView.as_view()),
    path("api/names", NamesView.as_view()),
    path("api/kit", KitView.as_view()),
    path("api/kit/loops/<int:loop_id>", KitLoopView.as_view()),
    path("api/board", BoardView.as_view()),
    path("api/wall/<str:token>", WallView.as_view()),
    path("api/wall-links", WallLinksView.as_view()),
    path("api/wall-links/<int:link_id>", WallLinkView.as_view()),
    path("api/plan", PlanView.as_view()),
    path("api/plan/<str:key>", AppointmentView.as_view()),
    path("api/attention", AttentionView.as_view()),
    path("api/figures", FiguresView.as_view()),
    path("api/figures.csv", FiguresCsvView.as_view()),
    path("api/calendar.ics", CalendarView.as_view()),
    path("api/rejudged/<int:rejudged_id>/answer", RejudgedView.as_view()),
    path("api/season", SeasonView.as_view()),
    path("api/machines", MachinesView.as_view()),
    path("api/machines/<int:machine_id>", MachineView.as_view()),
    path("api/machines/<int:machine_id>/loops", MachineLoopsView.as_view()),
    path("api/machines/<int:machine_id>/checked", MachineCheckedView.as_view()),
    path("api/kinds", KindsView.as_view()),
    path("api/starter", StarterView.as_view()),
    path("api/getting-started", GettingStartedView.as_view()),
    path("api/layouts", LayoutsView.as_view()),
    path("api/loops", LoopsView.as_view()),
    path("api/inspection", InspectionView.as_view()),
    path("api/catalogue", CatalogueView.as_view()),
    path("api/shelf", ShelfView.as_view()),
    path("api/cans", CansView.as_view()),
    path("api/cans/<int:can_id>", CanView.as_view()),
    path("api/cans/<int:can_id>/count", CountView.as_view()),
    path("api/lots", LotView.as_view()),
    path("api/waste", WasteView.as_view()),
    path("api/waste.csv", WasteCsvView.as_view()),
    path("api/waste/handovers", HandoversView.as_view()),
    path("api/waste/handovers/<uuid:handover_id>", HandoverView.as_view()),
    path("api/waste/handovers/<uuid:handover_id>/photo", HandoverPhotoView.as_view()),
    path("api/products", ProductsView.as_view()),
    path("api/products/<int:line_id>", ProductView.as_view()),
    path("api/agents", AgentsView.as_view()),
    path("api/agents/<int:line_id>", AgentView.as_view()),
    path("api/waters", WatersView.as_view()),
    path("api/waters/<int:line_id>", WaterView.as_view()),
    path("api/instruments", InstrumentsView.as_view()),
    path("api/instruments/<int:instrument_id>", InstrumentView.as_view()),
    path("api/instruments/<int:instrument_id>/zero", ZeroView.as_view()),
    path("api/instruments/<int:instrument_id>/bias", BiasView.as_view()),
    path("api/instruments/<int:instrument_id>/take", TakeView.as_view()),
    path("api/instruments/<int:instrument_id>/sample", SampleView.as_view()),
    path("api/readings", LogView.as_view()),
    path("api/readings/watch", WatchView.as_view()),
    path("api/readings/import", ImportView.as_view()),
    path("api/readings/import/columns", ImportColumnsView.as_view()),
    path("api/readings/template.csv", TemplateView.as_view()),
    path("api/readings/imports", ImportsView.as_view()),
    path("api/readings/imports/<uuid:import_id>", OneImportView.as_view()),
    path("api/readings/imports/<uuid:import_id>/progress", ImportProgressView.as_view()),
    path("api/readings/export/<str:kind>", ExportView.as_view()),
    path("api/night", NightView.as_view()),
    path("api/policy", PolicyView.as_view()),
    path("api/policy/<str:key>", RuleView.as_view()),
    path("api/jobs", JobsView.as_view()),
    path("api/loops/<int:loop_id>", LoopView.as_view()),
    path("api/loops/<int:loop_id>/spec", LoopSpecView.as_view()),
    path("api/loops/<int:loop_id>/history", HistoryView.as_view()),
    path("api/loops/<int:loop_id>/lessons", LessonsView.as_view()),
    path("api/loops/<int:loop_id>/photos", PhotosView.as_view()),
    path("api/photos/<str:sha256>", PhotoView.as_view()),
    path("api/loops/<int:loop_id>/sheet", SheetView.as_view()),
    path("api/loops/<int:loop_id>/sheet.pdf", SheetPdfView.as_view()),
    path("api/loops/<int:loop_id>/label", LabelView.as_view()),
    path("api/loops/<int:loop_id>/ledger", LedgerView.as_view()),
    path("api/loops/<int:loop_id>/entries/<uuid:entry_id>", EntryView.as_view()),
    path("api/loops/<int:loop_id>/entries/<uuid:entry_id>/preview", EntryPreviewView.as_view()),
    path("api/loops/<int:loop_id>/entries", EntriesView.as_view()),
    path("api/loops/<int:loop_id>/preview", PreviewView.as_view()),
    path("api/loops/<int:loop_id>/capacity", CapacityView.as_view()),
    path("api/loops/<int:loop_id>/drafts/<str:stage>", DraftView.as_view()),
    path("api/practice", PracticeView.as_view()),
    path("api/practice/offered", PracticeOfferedView.as_view()),
    path("api/practice/runs", PracticeRunsView.as_view()),
    path("api/practice/runs/<uuid:run_id>", PracticeRunView.as_view()),
    path("api/practice/runs/<uuid:run_id>/acts", PracticeActsView.as_view()),
    path("api/practice/runs/<uuid:run_id>/wait", PracticeWaitView.as_view()),
    path("api/practice/runs/<uuid:run_id>/truth", PracticeTruthView.as_view()),
    path("api/practice/record", PracticeRecordView.as_view()),
    path("api/practice/record.csv", PracticeRecordCsvView.as_view()),
    path("api/practice/asked/<str:work>", PracticeAskedView.as_view()),
    path("api/practice/lessons", PracticeLessonsView.as_view()),
    path("api/practice/lessons/<str:key>", PracticeLessonView.as_view()),
    *CALCULATORS,
    path("api/reference", ReferenceView.as_view()),
    path("api/schema", SchemaView.as_view()),
    path(PAGE.lstrip("/"), trust),
    path(CERTIFICATE.lstrip("/"), trust_certificate),
    re_path(r"^api(/|$)", ApiNotFoundView.as_view()),
    re_path(r"^(?!assets/).*$", screen),
]
